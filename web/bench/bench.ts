import type { Actuality, ActualityStep } from '../../core/edits/actuality'
import type { Span } from '../../core/edits/editList'
import type { WordsOf } from '../../core/edits/pieceWords'
import type { FactsOf, Plan } from '../../core/render/plan'
import type { Frames, Stretch } from '../../core/time'
import type { LiveDocument } from '../documents/liveDocument'
import type { KeptWord } from './benchSheet'

/** What acts on a Bench work with. Places are those of the piece, not of the Sheet. */
export interface Bench {
  /** By whom what plays is known. */
  owner: string
  live: LiveDocument<'actuality'>
  piece: Actuality
  plan: Plan
  factsOf: FactsOf
  wordsOf: WordsOf
  /** What was said off the record of a tape. */
  offOf: (tape: string) => readonly Stretch[]
  /** The words that are heard, in order. */
  kept: readonly KeptWord[]
  selected: Stretch | null
  /** All passages that are chosen, in order, none over another: one is never silently many. */
  passages: readonly Stretch[]
  select: (stretch: Stretch | null) => void
  /** Clears the selection, if it is still this one. */
  deselect: (stretch: Stretch) => void
  /** Where the playhead stands. */
  place: () => Frames
  goTo: (place: Frames) => void
  /** Brings a place into view. */
  reveal: (place: Frames) => void
  /** Says which join is worked on; it goes along with every edit, also where a moment later it is placed elsewhere. */
  setChosen: (at: Frames | null) => void
  act: (steps: ActualityStep[], label: string, quiet?: boolean) => void
  /** What plays is the piece as it is edited, not what it is compared with. */
  asEdited: () => void
}

/** What was copied, on whichever Bench. */
export const copied: { spans: Span[] } = { spans: [] }
