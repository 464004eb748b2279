import type { Finding } from '../core/hearing/findings'
import type { Side } from '../core/tape/tape'
import type { Origin } from '../core/sound/waveFile'
import type { Stretch } from '../core/time'

/** A tape's sound, as the server knows it. */
export interface TapeInfo {
  id: string
  name: string
  speaker: string
  role: string
  /** When it was recorded, as `2026-11-24`; empty where nobody knows. */
  day: string
  tags: string[]
  sides: Side[]
  /** What is spoken on it, as a language tag: `en`. */
  language: string
  state: 'arriving' | 'ready' | 'failed'
  /** 0 to 1, of its sound that is at hand. */
  progress: number
  /** Why it was not taken, and the tape that it is already, if so. */
  error: string
  twin: string | null
  channels: number
  /** What is there to be heard so far. */
  frames: number
  /** Of the file as it came, and as it is to be; `size` is 0 while nobody knows. */
  fileName: string
  bytes: number
  size: number
  /** All of the file is there. */
  complete: boolean
  sha256: string
  format: string
  findings: Finding[]
  origin: Origin
  added: string
  aside: boolean
  hasWords: boolean
  /** The document with its words. */
  transcript: string
  /** What was said off the record. */
  off: Stretch[]
  /** Room tone: found on the tape, or made from its noise floor because no stretch is quiet enough. */
  tone: { made: boolean; quiet: Stretch[] }
}

/** The sound that a tape's room tone is read from. */
export const toneSound = (tape: Pick<TapeInfo, 'id' | 'tone'>): string => (tape.tone.made ? `${tape.id}.tone` : tape.id)

/** Where a tape was used. */
export interface Use {
  piece: string
  slug: string
  story: string | null
  aside: boolean
  stretches: Stretch[]
  /** When it was pulled. */
  at: string
  /** Length of the words, and of the clip. */
  words: number
  length: number
}
