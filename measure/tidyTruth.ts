import { spawnSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import type { Word } from '../core/tape/words'
import { milliseconds, RATE, toFrames, type Stretch } from '../core/time'
import { TIDY_KINDS, type TidyKind, type TidyTape } from './tidyTape'

/** What was found, held against what is true. */

/** An edge counts as right within this. */
const RIGHT = milliseconds(50)

export type Fits = (found: Stretch, truth: Stretch) => boolean

/** Both edges lie within 50 ms of the truth. */
export const byEdges: Fits = (found, truth) => Math.abs(found.from - truth.from) <= RIGHT && Math.abs(found.to - truth.to) <= RIGHT

/** What both have in common is at least half of what they cover together. */
export const byOverlap: Fits = (found, truth) =>
  2 * (Math.min(found.to, truth.to) - Math.max(found.from, truth.from)) >= Math.max(found.to, truth.to) - Math.min(found.from, truth.from)

export class Score {
  right = 0
  found = 0
  true = 0
  /** How far edges of what is right lie off, in frames. */
  readonly off: number[] = []

  constructor(private readonly fits: Fits) {}

  add(found: readonly Stretch[], truth: readonly Stretch[]): void {
    this.found += found.length
    this.true += truth.length
    for (const one of truth) {
      const match = found.find((other) => this.fits(other, one))
      if (!match) continue
      this.right++
      this.off.push(Math.abs(match.from - one.from), Math.abs(match.to - one.to))
    }
  }

  get f1(): number {
    return (2 * this.right) / Math.max(1, this.found + this.true)
  }

  get counts(): string {
    return `${this.right} right of ${this.true}, ${this.found} found`
  }
}

/** The silences that ffmpeg finds below a level, in dB, and longer than so many seconds. */
export function silences(sound: Float32Array, dB: number, seconds: number): Stretch[] {
  const filter = `silencedetect=n=${dB}dB:d=${seconds}`
  const { stderr } = spawnSync(
    'ffmpeg',
    ['-hide_banner', '-f', 'f32le', '-ar', String(RATE), '-ac', '1', '-i', 'pipe:0', '-af', filter, '-f', 'null', '-'],
    { input: Buffer.from(sound.buffer, sound.byteOffset, sound.byteLength), maxBuffer: 1 << 28 },
  )
  const times = [...String(stderr).matchAll(/silence_(start|end): ([\d.]+)/g)]
  return times.flatMap(([, which, at], i): Stretch[] =>
    which === 'start' && times[i + 1] ? [{ from: toFrames(Number(at)), to: toFrames(Number(times[i + 1][2])) }] : [],
  )
}

/** What a line of truth may call each kind. */
const NAMES: Readonly<Record<TidyKind, RegExp>> = {
  pauses: /^pauses?$/,
  fillers: /^fillers?$/,
  stumbles: /^stumbles?$/,
  retakes: /^retakes?$/,
  breaths: /^breaths?$/,
  clicks: /^clicks?$/,
  pops: /^(pops?|bumps?|plosives?)$/,
  loud: /^loud$/,
  soft: /^soft$/,
  holes: /^holes?$/,
}

/**
 * A tape from outside, `--tape FILE --truth FILE`; null where none is named. The truth is a JSON list of
 * `{start, end, text, what}`, in seconds: what has a text and is no place is a word; a filler with a text is both.
 */
export function tidyTapeFromOutside(): TidyTape | null {
  const named = (flag: string) => (process.argv.includes(flag) ? process.argv[process.argv.indexOf(flag) + 1] : null)
  const [tape, truthFile] = [named('--tape'), named('--truth')]
  if (!tape || !truthFile) return null
  const { stdout } = spawnSync('ffmpeg', ['-v', 'error', '-i', tape, '-ac', '1', '-ar', String(RATE), '-f', 'f32le', 'pipe:1'], {
    maxBuffer: 2 ** 31 - 1,
  })
  const list = JSON.parse(readFileSync(truthFile, 'utf8')) as { start: number; end: number; text?: string; what?: string }[]
  const truth = Object.fromEntries(TIDY_KINDS.map((kind): [TidyKind, Stretch[]] => [kind, []])) as TidyTape['truth']
  const words: Word[] = []
  for (const { start, end, text, what = '' } of list) {
    const place = { from: toFrames(start), to: toFrames(end) }
    const kind = TIDY_KINDS.find((one) => NAMES[one].test(what))
    if (kind) truth[kind].push(place)
    if (text && (!kind || kind === 'fillers')) words.push({ text, ...place, ...(kind ? { what: 'filler' as const } : {}) })
  }
  words.sort((a, b) => a.from - b.from)
  return { sound: new Float32Array(stdout.buffer.slice(stdout.byteOffset, stdout.byteOffset + (stdout.length & ~3))), words, truth }
}
