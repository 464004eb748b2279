import type { Side } from '../core/tape/tape'
import type { Word } from '../core/tape/words'
import type { Stretch } from '../core/time'

/** A tape's sound, as the server knows it. */
export interface TapeInfo {
  id: string
  name: string
  speaker: string
  role: string
  sides: Side[]
  state: 'arriving' | 'ready' | 'failed'
  /** 0 to 1, of what arrival does once the file is there. */
  progress: number
  error: string
  channels: number
  frames: number
  /** Of the file as it came. */
  fileName: string
  bytes: number
  sha256: string
  format: string
  added: string
  aside: boolean
  hasWords: boolean
  /** Room tone: found on the tape, or made from its noise floor because no stretch is quiet enough. */
  tone: { made: boolean; quiet: Stretch[] }
}

/** The sound that a tape's room tone is read from. */
export const toneSound = (tape: Pick<TapeInfo, 'id' | 'tone'>): string => (tape.tone.made ? `${tape.id}.tone` : tape.id)

export type Words = Word[]

/** Where a tape was used. */
export interface Use {
  piece: string
  slug: string
  story: string | null
  aside: boolean
  stretches: Stretch[]
  /** Length of the words, and of the clip. */
  words: number
  length: number
}
