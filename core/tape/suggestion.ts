import type { RepairKind } from '../mend/repair'
import type { LevelPoint } from '../sound/level'
import type { Frames, Stretch } from '../time'

/** What a finder found on a tape, and proposes. It lies on frames of the tape, so it travels as words do. */
export interface Suggestion extends Stretch {
  id: string
  kind: 'suggestion'
  /** When it was found, as an ISO 8601 date. */
  at: string
  tape: string
  /** Of one side, by its place among the sides; null of all that is heard. */
  side: number | null
  /** Which finder, with what settings. */
  finder: string
  settings: Readonly<Record<string, number | string | boolean>>
  /** How sure the finder is, 0 to 1. */
  sure: number
  proposes: Proposal
  /** It may be what the story is about: when it goes all the same, it is asked about before anything is sent. */
  story?: true
  /** What was decided; null while it is open. */
  decision: Decision | null
}

export type Proposal =
  /** Take out what goes, which may be only part of it (of a pause) or more (a pause beside it), and leave so much room in its place. */
  | { do: 'takeOut'; goes: Stretch; room: Frames }
  /** The same, and hold its time. */
  | { do: 'hold'; goes: Stretch }
  /** A level line over it, by frames of the tape. */
  | { do: 'level'; points: readonly LevelPoint[] }
  /** The side gives way to its room. */
  | { do: 'mute' }
  /** The spot is repaired, on its side or on all of them. */
  | { do: 'repair'; how: RepairKind }

export interface Decision {
  /** Applied as proposed, applied with changes, or dismissed. */
  is: 'applied' | 'changed' | 'dismissed'
  /** Whose hand it was, and when. */
  by: string
  at: string
  /** The act that it became, where it became one. */
  act?: string
}
