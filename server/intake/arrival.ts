import type { TapeFigures } from '../../core/hearing/ear'
import type { Finding } from '../../core/hearing/findings'
import type { Origin } from '../../core/sound/waveFile'
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

/** Why a file is not imported: each is a thing of the file, and stays so however often it is tried. */
export const REFUSALS = {
  'no sound': (name: string) => `There is no sound to be read in “${name}”. Nothing was kept of it.`,
  'too many channels': (name: string) => `“${name}” has more than eight channels. Nothing was kept of it.`,
  'too low a rate': (name: string) => `“${name}” has fewer than 4,000 samples a second, too few for speech. Nothing was kept of it.`,
  'too large unpacked': (name: string) => `“${name}” would unpack to more than there is room for on the disk. Nothing was kept of it.`,
} as const

export type RefusalReason = keyof typeof REFUSALS
export const isRefusal = (reason: string): reason is RefusalReason => Object.hasOwn(REFUSALS, reason)
