import { spawnSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { Readable } from 'node:stream'
import { RATE as SPEECH_RATE, speak, type Voice } from '../demo/speech'
import { random } from '../core/sound/random'
import type { Word } from '../core/tape/words'
import { RATE, toFrames } from '../core/time'
import { takeIn } from '../server/intake/intake'
import { tend } from '../server/intake/tend'
import type { Services } from '../server/services'

/** Spoken tapes with the true times of their words. The voices are synthetic (flite). */

if (SPEECH_RATE !== RATE) throw new Error('speech is made at the rate of tapes')

export interface Truth {
  text: string
  from: number
  to: number
}

export const VOICES: readonly Voice[] = [
  { flite: 'slt', stretch: 1.05, pitch: 1 },
  { flite: 'rms', stretch: 1, pitch: 1 },
  { flite: 'awb', stretch: 1, pitch: 1 },
]

const SUBJECTS = (
  'the captain|my mother|nobody on the island|the harbour office|a nurse from the late shift|the fish plant|our ' +
  'council|the old ferry|everybody here|the woman at the ticket window'
).split('|')
const VERBS = (
  'waits for|never asked about|wrote a letter to|sold the last ticket to|remembers|was told about|heard the engine ' +
  'of|gave a hundred pounds to|carried the post for|spoke against'
).split('|')
const OBJECTS = (
  'the night boat|the people across the water|a winter without mail|the doctor and his brother|seven fishermen|the ' +
  'company in the city|the new timetable|children going to school|the morning train|anyone who listens'
).split('|')
const ENDS = [
  'before the tide turns',
  'since last Monday',
  'when the lights go out',
  'and that is the truth',
  'because it has to run',
  'on the first of the month',
  'while the weather holds',
  'every single evening',
  'though it costs them',
  'at twenty to twelve',
]

/** A sentence drawn by `next`, which gives numbers from 0 to 1. */
export function sentenceOf(next: () => number): string {
  const one = (list: readonly string[]) => list[Math.floor(next() * list.length)]
  return `${one(SUBJECTS)} ${one(VERBS)} ${one(OBJECTS)} ${one(ENDS)}.`
}

/** Sentences of one voice one after the other, with pauses between, for so many seconds. */
export function spoken(voice: Voice, seconds: number, seed: number): { sound: Float32Array; truth: Truth[] } {
  const next = random(seed)
  const parts: { samples: Float32Array; at: number }[] = []
  const truth: Truth[] = []
  let at = toFrames(0.6)
  while (at < seconds * RATE) {
    const { samples, words } = speak(voice, sentenceOf(next))
    parts.push({ samples, at })
    truth.push(...words.map(({ text, from, to }) => ({ text, from: at + from, to: at + to })))
    at += samples.length + toFrames(0.25 + next())
  }
  const sound = new Float32Array(at)
  for (const { samples, at: from } of parts) sound.set(samples, from)
  return { sound, truth }
}

/** Brings sound in as a tape; gives its id. */
export async function tapeOf(services: Services, name: string, sound: Float32Array, words?: Word[]): Promise<string> {
  const { stdout } = spawnSync(
    'ffmpeg',
    ['-v', 'error', '-f', 'f32le', '-ar', String(RATE), '-ac', '1', '-i', 'pipe:0', '-c:a', 'pcm_s16le', '-f', 'wav', 'pipe:1'],
    { input: new Uint8Array(sound.buffer, sound.byteOffset, sound.byteLength), maxBuffer: 2 ** 31 - 1 },
  )
  const id = await takeIn(services, Readable.from([stdout]), `${name}.wav`, { name, ...(words ? { words } : {}) })
  await tend(services, { id })
  return id
}

/** A tape and its truth from outside: `--tape FILE --truth FILE`; null where none are named. */
export function fromOutside(): { sound: Float32Array; truth: Truth[] } | null {
  const named = (flag: string) => (process.argv.includes(flag) ? process.argv[process.argv.indexOf(flag) + 1] : null)
  const [tape, words] = [named('--tape'), named('--truth')]
  if (!tape || !words) return null
  const { stdout } = spawnSync('ffmpeg', ['-v', 'error', '-i', tape, '-ac', '1', '-ar', String(RATE), '-f', 'f32le', 'pipe:1'], {
    maxBuffer: 2 ** 31 - 1,
  })
  const list = JSON.parse(readFileSync(words, 'utf8')) as { start: number; end: number; text: string; what?: string }[]
  return {
    sound: new Float32Array(stdout.buffer.slice(stdout.byteOffset, stdout.byteOffset + (stdout.length & ~3))),
    truth: list
      .filter(({ what }) => what !== 'pause' && what !== 'noise')
      .map(({ start, end, text }) => ({ text, from: toFrames(start), to: toFrames(end) })),
  }
}

/** Share of words that were left out, put in or taken for others (Levenshtein). */
export function wordError(truth: readonly string[], heard: readonly string[]): number {
  let row = Array.from({ length: heard.length + 1 }, (_, j) => j)
  for (let i = 1; i <= truth.length; i++) {
    const now = [i]
    for (let j = 1; j <= heard.length; j++)
      now[j] = Math.min(row[j - 1] + (truth[i - 1] === heard[j - 1] ? 0 : 1), row[j] + 1, now[j - 1] + 1)
    row = now
  }
  return row[heard.length] / truth.length
}
