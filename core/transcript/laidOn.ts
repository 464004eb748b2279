import type { Word } from '../tape/words'
import { toFrames, type Frames, type Stretch } from '../time'
import type { ReadWord } from './read'

/** What a recogniser was as sure of, in a row this long, is said there, whatever the text has. */
const SURE = 0.6
const IN_A_ROW = 3

export interface LaidOn {
  words: Word[]
  /** Runs of the text that nobody says, with the place where they would be. */
  missing: { at: Frames; text: string }[]
  /** Runs that are said, as far as the guide knows, and stand in no text. */
  extra: { at: Frames; text: string }[]
}

const joined = (words: readonly { text: string }[]): string => words.map(({ text }) => text).join(' ')

/**
 * A text with the places where its words were found, as words of a tape: what was not found is left
 * out and said; what the guide heard where the text has nothing is kept as the guess that it is.
 */
export function laidOn(read: readonly ReadWord[], places: readonly (Stretch | null)[], guide: readonly Word[]): LaidOn {
  const words: Word[] = []
  const missing: LaidOn['missing'] = []
  let run: ReadWord[] = []
  const close = () => {
    if (run.length) missing.push({ at: run[0].within?.from ?? words.at(-1)?.to ?? 0, text: joined(run) })
    run = []
  }
  read.forEach(({ text, speaker, within, exact }, i) => {
    const place = places[i] ?? (exact ? within! : null)
    if (!place) return void run.push(read[i])
    close()
    words.push({
      text,
      from: place.from,
      to: place.to,
      ...(speaker ? { speaker } : {}),
      ...(/^\(.*\)$/.test(text) ? { what: 'noise' as const } : {}),
    })
  })
  close()
  words.sort((a, b) => a.from - b.from)
  const extra: LaidOn['extra'] = []
  const kept: Word[] = []
  for (const heard of runsOf(guide, words)) {
    if (heard.length < IN_A_ROW || heard.reduce((sum, { sure = 1 }) => sum + sure, 0) / heard.length < SURE) continue
    extra.push({ at: heard[0].from, text: joined(heard) })
    kept.push(...heard)
  }
  return { words: [...words, ...kept].sort((a, b) => a.from - b.from), missing, extra }
}

/** Runs of the guide that lie where no word of the text does. */
function runsOf(guide: readonly Word[], words: readonly Word[]): Word[][] {
  const runs: Word[][] = []
  let first = 0
  let open = false
  for (const heard of guide) {
    while (first < words.length && words[first].to <= heard.from) first++
    const free = !(first < words.length && words[first].from < heard.to)
    if (free && open && heard.from - runs[runs.length - 1].at(-1)!.to < toFrames(1)) runs[runs.length - 1].push(heard)
    else if (free) runs.push([heard])
    open = free
  }
  return runs
}
