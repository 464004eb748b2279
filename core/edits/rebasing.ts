import type { Frames, Stretch } from '../time'
import type { ActualityStep, Move, PaintStep, Replace } from './actualitySteps'
import { listLength, stands } from './editList'
import { reachOfMove, throughMove } from './movement'
import { collide, reachOfPaint } from './painting'

/** Rebases a step on a piece over another that was made for the same piece and applied first. Steps that change the same place conflict. */

export const insertedLength = (step: Replace): Frames => listLength(step.insert)
export const lengthens = (step: Replace): Frames => insertedLength(step) - (step.to - step.from)

/** The step rebased over another one; null if both change the same place, which is symmetric. */
export function rebased(step: ActualityStep, over: ActualityStep): ActualityStep | null {
  if (step.type === 'set' || over.type === 'set') return step.type === 'set' && over.type === 'set' && step.key === over.key ? null : step
  if (over.type === 'paint') return overPaint(step, over)
  if (over.type === 'move') return overMove(step, over)
  if (over.type === 'replace') return overReplace(step, over)
  return overJoin(step, over.at, over.type === 'heard' ? over.heard : null)
}

const within = ({ from, to }: Stretch, frame: Frames): boolean => frame >= from && frame <= to
const meets = (a: Stretch, b: Stretch): boolean => a.from <= b.to && b.from <= a.to
const inside = (inner: Stretch, outer: Stretch): boolean => inner.from > outer.from && inner.to < outer.to
const points = ({ from, to, at }: Move): Frames[] => [from, to, at]

/** `heard`: what `over` says of the join, or null where it changes the join itself. */
function overJoin(step: ActualityStep, at: Frames | null, heard: boolean | null): ActualityStep | null {
  if (at === null || step.type === 'set') return step
  if (step.type === 'heard') {
    if (step.at !== at || step.heard === heard) return step
    return heard === null ? { ...step, at: null } : null
  }
  if (heard !== null) return step
  if (step.type === 'join') return step.at === at ? null : step
  if (step.type === 'move') return points(step).includes(at) ? null : step
  if (step.type === 'paint') return touchesPaint(step, { from: at, to: at }) ? null : step
  return within(step, at) ? null : step
}

/** Whether a place lies in, or at the end of, what is painted. */
const touchesPaint = ({ parts, joins = [] }: PaintStep, place: Stretch): boolean =>
  parts.some((part) => meets(part, place)) || joins.some(({ at }) => within(place, at))

function overPaint(step: ActualityStep, over: PaintStep): ActualityStep | null {
  switch (step.type) {
    case 'heard':
      return over.joins?.some(({ at }) => at === step.at) ? { ...step, at: null } : step
    case 'join':
      return touchesPaint(over, { from: step.at, to: step.at }) ? null : step
    case 'move':
      return movable(over, step) ? step : null
    case 'replace':
      return clippable(over, step) ? step : null
    case 'paint': {
      const [mine, theirs] = [reachOfPaint(step), reachOfPaint(over)]
      const restored = step.joins?.length || over.joins?.length
      if (restored && mine && theirs && meets(mine, theirs)) return null
      return step.parts.some((a) => over.parts.some((b) => collide(a, b))) ? null : step
    }
    case 'set':
      return step
  }
}

/** Whether what is painted goes along with a move as it is: all of each part moves, or none of it. */
const movable = ({ parts, joins = [] }: PaintStep, move: Move): boolean =>
  parts.every((part) => inside(part, move) || points(move).every((point) => !within(part, point))) &&
  joins.every(({ at }) => !points(move).includes(at))

/** Whether what is painted applies to what is left once a stretch was replaced: sound went, or came in its midst. */
function clippable({ parts, joins = [] }: PaintStep, { from, to, insert }: Replace): boolean {
  if (joins.some(({ at }) => at >= from && at <= to)) return false
  const roomOnly = insert.every((span) => !stands(span))
  return parts.every((part) => {
    if (part.to < from || part.from > to) return true
    if ([part.from, part.to].some((edge) => edge === from || edge === to)) return false
    return roomOnly || (from === to && part.from < from && part.to > from)
  })
}

function overMove(step: ActualityStep, over: Move): ActualityStep | null {
  const through = (frame: Frames) => throughMove(over, frame)
  const end = (frame: Frames) => throughMove(over, frame - 1) + 1
  switch (step.type) {
    case 'heard':
      return step.at === null ? step : points(over).includes(step.at) ? { ...step, at: null } : { ...step, at: through(step.at) }
    case 'join':
      return points(over).includes(step.at) ? null : { ...step, at: through(step.at) }
    case 'replace':
      return points(over).some((point) => within(step, point)) ? null : { ...step, from: through(step.from), to: through(step.to) }
    case 'paint':
      if (!movable(step, over)) return null
      return {
        ...step,
        parts: step.parts.map((part) => ({ ...part, from: through(part.from), to: end(part.to) })),
        ...(step.joins ? { joins: step.joins.map(({ at, join }) => ({ at: through(at), join })) } : {}),
      }
    case 'move': {
      if (meets(reachOfMove(step), reachOfMove(over)) && !nested(step, over) && !nested(over, step)) return null
      return { ...step, from: through(step.from), to: end(step.to), at: through(step.at) }
    }
    case 'set':
      return step
  }
}

/** Whether all that one move touches lies within the passage of another, or between it and where it goes. */
function nested(inner: Move, outer: Move): boolean {
  const reach = reachOfMove(inner)
  const between = outer.at > outer.to ? { from: outer.to, to: outer.at } : { from: outer.at, to: outer.from }
  return inside(reach, outer) || inside(reach, between)
}

function overReplace(step: ActualityStep, over: Replace): ActualityStep | null {
  const by = lengthens(over)
  const shift = (frame: Frames) => (frame >= over.to ? frame + by : frame)
  switch (step.type) {
    case 'heard':
      return step.at === null ? step : within(over, step.at) ? { ...step, at: null } : { ...step, at: shift(step.at) }
    case 'join':
      return within(over, step.at) ? null : { ...step, at: shift(step.at) }
    case 'replace':
      return meets(step, over) ? null : { ...step, from: shift(step.from), to: shift(step.to) }
    case 'move':
      return points(step).some((point) => within(over, point))
        ? null
        : { ...step, from: shift(step.from), to: shift(step.to), at: shift(step.at) }
    case 'paint': {
      if (!clippable(step, over)) return null
      const parts = step.parts.flatMap((part) =>
        [
          { ...part, to: Math.min(part.to, over.from) },
          { ...part, from: Math.max(part.from, over.to) + by, to: part.to + by },
        ]
          .map((one, i) => (part.to < over.from ? (i === 0 ? part : null) : part.from > over.to ? (i === 1 ? one : null) : one))
          .filter((one) => one !== null && one.to > one.from),
      ) as PaintStep['parts']
      return { ...step, parts, ...(step.joins ? { joins: step.joins.map(({ at, join }) => ({ at: shift(at), join })) } : {}) }
    }
    case 'set':
      return step
  }
}
