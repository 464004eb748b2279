import type { FadeShape } from '../sound/fade'
import type { Bag } from '../steps/records'
import type { Suggestion } from '../tape/suggestion'
import type { Side } from '../tape/tape'
import type { Frames } from '../time'
import { listLength, type EditList } from './editList'

/** What a piece is; how it changes is in `actuality.ts`. */

/** How a piece comes in or goes out. */
export interface EndFade {
  length: Frames
  shape: FadeShape
}

/** What was set aside from a piece, still usable. */
export interface Offcut {
  id: string
  kind: 'offcut'
  /** When it was set aside, as an ISO 8601 date. */
  at: string
  spans: EditList
}

/** What was cut off an end of a piece, and how long the handle there was. */
export interface EndCut {
  spans: EditList
  handle: Frames
}

/** A state of a piece that somebody gave a name, to go back to and to compare with. */
export interface Version {
  id: string
  kind: 'version'
  name: string
  /** When it was kept, as an ISO 8601 date. */
  at: string
  spans: EditList
  head: number
  tail: number
  sides?: Actuality['sides']
  gain?: number
  fadeIn?: EndFade
  fadeOut?: EndFade
  cutHead?: EndCut
  cutTail?: EndCut
}

/** What is kept beside a piece: it is no part of what is heard, and each is a record of its own. */
export type Kept = Offcut | Version | Suggestion

/** A piece pulled from tape. */
export interface Actuality {
  kind: 'actuality'
  slug: string
  /** Who speaks, and as what: "Piet Aldous", "deckhand". */
  speaker: string
  role: string
  /** The story it belongs to, or null. */
  story: string | null
  /** The line of copy that a voice track is a take of: a block of its story. Absent for any other piece. */
  line?: string
  spans: EditList
  /** Handles: room before the first and after the last word, for fades and overlaps. Within the length. */
  head: Frames
  tail: Frames
  /**
   * How the sides of each of its tapes were set when it was pulled, by the tape's id: what is set on
   * a tape later changes no piece that was there.
   */
  sides?: Readonly<Record<string, Side[]>>
  /** Gain over all of it, in dB; absent means 0. */
  gain?: number
  /** Where an end has none of its own, its fade is as long as its handle. */
  fadeIn?: EndFade
  fadeOut?: EndFade
  /** Offcuts, versions and suggestions, by id; absent if there are none. */
  kept?: Bag<Kept>
  /** What was cut off before its first frame, and after its last. */
  cutHead?: EndCut
  cutTail?: EndCut
}

export type ActualityKey =
  | 'slug'
  | 'speaker'
  | 'role'
  | 'story'
  | 'head'
  | 'tail'
  | 'sides'
  | 'gain'
  | 'fadeIn'
  | 'fadeOut'
  | 'cutHead'
  | 'cutTail'

export const clipLength = (actuality: Pick<Actuality, 'spans'>): Frames => listLength(actuality.spans)

/** What of one kind is kept beside a piece, the oldest first. */
export const keptOf = <K extends Kept['kind']>({ kept }: Pick<Actuality, 'kept'>, kind: K): Extract<Kept, { kind: K }>[] =>
  Object.values(kept ?? {})
    .filter((one): one is Extract<Kept, { kind: K }> => one.kind === kind)
    .sort((a, b) => (a.at < b.at || (a.at === b.at && a.id < b.id) ? -1 : 1))

/** Length of the words: what counts on the page. */
export const wordsLength = (actuality: Pick<Actuality, 'spans' | 'head' | 'tail'>): Frames =>
  Math.max(0, clipLength(actuality) - actuality.head - actuality.tail)
