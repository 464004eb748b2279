import { isRoom, spanAt, type Cut, type EditList } from '../edits/editList'
import { toFrames, type Stretch } from '../time'
import type { CutOrder } from './cut'
import type { Placement } from './place'

/**
 * What is to be placed where a stretch of a piece goes: its two edges on tape, each within the span
 * that it lies in. Null at the ends of the piece, where no two sides meet, and beside room tone.
 */
export function cutOf(list: EditList, { from, to }: Stretch): CutOrder | null {
  const [left, right] = [from > 0 ? spanAt(list, from - 1) : null, spanAt(list, to)]
  if (!left || !right || isRoom(left.span) || isRoom(right.span)) return null
  const asked = { left: left.span.from + from - left.start, right: right.span.from + to - right.start }
  const one = left.index === right.index
  return {
    left: { tape: left.span.tape, asked: asked.left, low: left.span.from + 1, high: one ? asked.right : left.span.to },
    right: { tape: right.span.tape, asked: asked.right, low: one ? asked.left : right.span.from, high: right.span.to - 1 },
  }
}

/** So far beyond its edge what was said next may be brought along, for a pause. */
const BEYOND = toFrames(1)

/** A join as it lies, to be judged or placed anew: what was taken out between its sides is free to come back. */
export function joinOf({ left, right }: Cut): CutOrder | null {
  if (isRoom(left) || isRoom(right)) return null
  const inWord = [left, right].some(({ patch }) => patch && !patch.own)
  if (inWord)
    return {
      left: { tape: left.tape, asked: left.to, low: left.from + 1, high: left.to + BEYOND },
      right: { tape: right.tape, asked: right.from, low: Math.max(0, right.from - BEYOND), high: right.to - 1 },
      inWord,
    }
  const onwards = left.tape === right.tape && right.from >= left.to
  return {
    left: { tape: left.tape, asked: left.to, low: left.from + 1, high: onwards ? right.from : left.to + BEYOND },
    right: { tape: right.tape, asked: right.from, low: onwards ? left.to : Math.max(0, right.from - BEYOND), high: right.to - 1 },
  }
}

/** The stretch of the piece that goes once the cut is placed. */
export function placedStretch({ from, to }: Stretch, order: CutOrder, placement: Pick<Placement, 'left' | 'right'>): Stretch {
  return { from: from + placement.left - order.left.asked, to: to + placement.right - order.right.asked }
}
