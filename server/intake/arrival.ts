import type { TapeFigures } from '../../core/hearing/ear'
import type { Finding } from '../../core/hearing/findings'
import type { Origin } from '../../core/tape/waveFile'
import type { Frames, Stretch } from '../../core/time'

/** What is said between whoever tends to an arriving tape and the thread that takes it in. */
export interface ArrivalOrder {
  /** The file as it comes, and the tape's folder, which holds what is made of it. */
  file: string
  folder: string
  complete: boolean
  /** What it will be in all, in bytes; 0 where nobody knows. */
  size: number
}

/** What the thread is told meanwhile: the file is whole. */
export type ArrivalNews = { complete: true }

export type ArrivalReport =
  | { begun: { channels: number; format: string; origin: Origin } }
  /** Frames that are there to be heard, and the share of them, 0 to 1, as far as that is known. */
  | { frames: Frames; share: number }
  /** Nothing came for a while. */
  | { waiting: true }
  | { done: Done }

export interface Done {
  frames: Frames
  sha256: string
  twoSpeakers: boolean
  tone: { made: boolean; quiet: Stretch[] }
  figures: TapeFigures
  findings: Finding[]
}

/** There is nothing to be heard in the file: it is no sound, or holds none. */
export const NO_SOUND = 'no sound'
