import type { Frames, Stretch } from '../time'
import type { Move } from './actualitySteps'
import { joinAt, listLength, normal, slice, type EditList, type Join, type Span } from './editList'

/** A passage that goes elsewhere in its piece. Positions are frames of the piece. */

const length = ({ from, to }: Stretch): Frames => to - from

type Places = Pick<Move, 'from' | 'to' | 'at'>

/** Where the passage begins once it was moved. */
export const movedTo = (step: Places): Frames => (step.at > step.from ? step.at - length(step) : step.at)

/** All that a move touches: from the passage to where it goes. */
export const reachOfMove = ({ from, to, at }: Move): Stretch => ({ from: Math.min(from, at), to: Math.max(to, at) })

/** Where a frame lies after a move: those of the passage go with it. */
export function throughMove(step: Places, frame: Frames): Frames {
  if (frame >= step.from && frame < step.to) return frame - step.from + movedTo(step)
  if (frame >= step.to && frame < step.at) return frame - length(step)
  if (frame >= step.at && frame < step.from) return frame + length(step)
  return frame
}

const joinedBy = (spans: Span[], join: Join | null): Span[] => {
  const [first, ...rest] = spans
  if (!first) return spans
  const { join: _, ...bare } = first
  return [join ? { ...bare, join } : bare, ...rest]
}

/** The list after a move. Throws RangeError where its place lies within the passage, or outside the piece. */
export function applyMove(spans: EditList, step: Move): EditList {
  const { from, to, at, closing, first, after } = step
  const end = listLength(spans)
  if (from < 0 || to <= from || to > end || at < 0 || at > end || (at > from && at < to))
    throw new RangeError('the passage cannot be moved there')
  const passage = joinedBy(slice(spans, from, to), first)
  if (at >= to)
    return normal([
      ...slice(spans, 0, from),
      ...joinedBy(slice(spans, to, at), closing),
      ...passage,
      ...joinedBy(slice(spans, at, end), after),
    ])
  return normal([
    ...slice(spans, 0, at),
    ...passage,
    ...joinedBy(slice(spans, at, from), after),
    ...joinedBy(slice(spans, to, end), closing),
  ])
}

/** The places of the move that leads back. */
export function wayBack(step: Move): Pick<Move, 'from' | 'to' | 'at'> {
  const start = movedTo(step)
  return { from: start, to: start + length(step), at: step.at > step.from ? step.from : step.to }
}

/** The move that leads back, with the joins that were there. */
export const invertMove = (spans: EditList, step: Move): Move => ({
  type: 'move',
  ...wayBack(step),
  closing: joinAt(spans, step.at),
  first: joinAt(spans, step.from),
  after: joinAt(spans, step.to),
})
