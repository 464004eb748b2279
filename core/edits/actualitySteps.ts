import type { LevelPoint } from '../sound/level'
import type { Frames, Stretch } from '../time'
import type { RecordStep } from '../steps/records'
import type { Actuality, ActualityKey, Kept } from './piece'
import type { Join, Span } from './editList'

/** What can be painted over a stretch of a piece. A `side` is a side of the tape, by its number. */
export type Paint =
  | { what: 'mute'; value: true | null }
  /** True mutes the side, false has it heard though it is muted on the tape, null is as on the tape. */
  | { what: 'side'; side: number; value: boolean | null }
  | { what: 'slip'; side: number; value: Frames }
  /** How much louder the side is, in dB; 0 is as recorded. */
  | { what: 'level'; side: number; value: number }
  /** Below how many hertz it is cut; null is as recorded. */
  | { what: 'lowCut'; value: number | null }
  /**
   * Points of the level line. What is painted over is all of a span, so that the line makes no cut; `over` is where its
   * points give way to the new ones, both ends included, or null for all of its line. Frames count from the part's first.
   */
  | { what: 'line'; over: Stretch | null; points: LevelPoint[] }

/** Something painted over one stretch. */
export type PaintPart = Stretch & Paint
export type LinePart = Extract<PaintPart, { what: 'line' }>

/** Positions are frames of the piece, from its first. */
export type ActualityStep =
  /** `[from, to)` gives way to `insert`; `after` is the join of what then follows. */
  | { type: 'replace'; from: Frames; to: Frames; insert: Span[]; after: Join | null }
  /**
   * `[from, to)` goes to before what stands at `at`, which is not within it. `closing`: the join where it
   * was; `first`: its own join in its new place; `after`: that of what then follows it. Null where none is.
   */
  | { type: 'move'; from: Frames; to: Frames; at: Frames; closing: Join | null; first: Join | null; after: Join | null }
  /** Each part is painted over its stretch. `joins`: joins of paints as they are to be, where that is not what a fresh one is. */
  | { type: 'paint'; parts: PaintPart[]; joins?: { at: Frames; join: Join }[] }
  | { type: 'join'; at: Frames; join: Join }
  /**
   * Whether the join at a position was played; has no effect if no join lies there. It never conflicts: if another step
   * changes the join, that step holds, and `at` becomes null.
   */
  | { type: 'heard'; at: Frames | null; heard: boolean }
  /** What is kept beside the piece: put there, named, removed. */
  | { type: 'keep'; step: RecordStep<Kept> }
  | { type: 'set'; key: ActualityKey; value: Actuality[ActualityKey] }

export type Replace = Extract<ActualityStep, { type: 'replace' }>
export type Move = Extract<ActualityStep, { type: 'move' }>
export type PaintStep = Extract<ActualityStep, { type: 'paint' }>
export type JoinStep = Extract<ActualityStep, { type: 'join' }>
export type Heard = Extract<ActualityStep, { type: 'heard' }>
export type Keep = Extract<ActualityStep, { type: 'keep' }>
/** Steps that act at a place of the piece. */
export type PlacedStep = Exclude<ActualityStep, { type: 'set' | 'keep' }>
