import { isFiller, type HeardWord } from '../../core/recognise/heard'
import { run } from '../outside/program'
import type { Recogniser } from './recogniser'

/** Debian's pocketsphinx: an offline recogniser of American English, and with a grammar an aligner. */

export const MODEL = '/usr/share/pocketsphinx/model/en-us'

/** It gives the last look of a word, each 10 ms long. */
const LOOK = 0.01

/** A line of its words: `name from to trust`. */
const LINE = /^(\S+) (\d+\.\d+) (\d+\.\d+) (\d+\.\d+(?:e[-+]?\d+)?)$/

export interface Segment {
  name: string
  from: number
  to: number
  trust: number
}

/** Runs it over a file of 16-bit samples at 16 kHz; gives what it found with times in seconds. */
export async function segments(path: string, args: readonly string[], limitMs: number, signal?: AbortSignal): Promise<Segment[]> {
  // least urgent of all: what people do goes first
  const out = await run(
    'nice',
    [
      '-n',
      '15',
      'pocketsphinx_continuous',
      '-infile',
      path,
      '-time',
      'yes',
      '-remove_silence',
      'no',
      '-hmm',
      `${MODEL}/en-us`,
      '-logfn',
      '/dev/null',
      ...args,
    ],
    limitMs,
    signal,
  )
  return out.split('\n').flatMap((line) => {
    const found = LINE.exec(line)
    return found
      ? [
          {
            name: found[1].replace(/\(\d+\)$/, ''),
            from: Number(found[2]),
            to: Number(found[3]) + LOOK,
            trust: Math.min(1, Number(found[4])),
          },
        ]
      : []
  })
}

const written = (word: string): string => (/^i('|$)/.test(word) ? `I${word.slice(1)}` : word)

export const sphinx: Recogniser = {
  name: 'Pocketsphinx, American English',
  languages: ['en'],
  atOnce: 2,
  async hear({ path, seconds }, signal) {
    const found = await segments(
      path,
      ['-lm', `${MODEL}/en-us.lm.bin`, '-dict', `${MODEL}/cmudict-en-us.dict`],
      60_000 + seconds * 10_000,
      signal,
    )
    return found.flatMap(({ name, from, to, trust }): HeardWord[] => {
      if (/^<.*>$/.test(name)) return []
      const sure = Math.round(trust * 100) / 100
      if (/^\[.*\]$/.test(name)) return []
      return [{ text: written(name), from, to, sure, ...(isFiller(name) ? { what: 'filler' as const } : {}) }]
    })
  },
}
