import { lineWithin, type LevelPoint } from '../sound/level'
import type { Frames, Stretch } from '../time'
import type { EditList, Span } from './editList'
import { without } from '../stretches'

/** Edit lists made of a tape as it is, with its level line. */

/** A stretch of tape as spans, the struck parts left out. Joins are set by bringing it to normal form. */
export const unstruck = (tape: string, stretch: Stretch, struck: readonly Stretch[], level: readonly LevelPoint[] = []): Span[] =>
  without(stretch, struck).map((part) => ofTape(tape, part, level))

function ofTape(tape: string, { from, to }: Stretch, level: readonly LevelPoint[]): Span {
  const line = lineWithin(level, from, to)
  return { tape, from, to, sound: 'tape', ...(line ? { level: line } : {}) }
}

/** A whole tape as an edit list: what the Sheet plays. */
export const wholeTape = (tape: string, frames: Frames, level: readonly LevelPoint[] = []): EditList => [
  ofTape(tape, { from: 0, to: frames }, level),
]
