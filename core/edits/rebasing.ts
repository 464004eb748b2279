import type { Frames, Stretch } from '../time'
import type { ActualityStep, Heard, JoinStep, Move, PaintPart, PaintStep, PlacedStep, Replace } from './actualitySteps'
import { isRoom, listLength } from './editList'
import { overKeep } from './keeping'
import { reachOfMove, throughMove } from './movement'
import { clipped, collide, reachOfPaint } from './painting'
import { touches } from '../stretches'

/** Rebases a step on a piece over another that was made for the same piece and applied first. Steps that change the same place conflict. */

export const insertedLength = (step: Replace): Frames => listLength(step.insert)
export const lengthens = (step: Replace): Frames => insertedLength(step) - (step.to - step.from)

/** The step rebased over another one; null if both change the same place, which is symmetric. */
export function rebased(step: ActualityStep, over: ActualityStep): ActualityStep | null {
  if (step.type === 'keep' || over.type === 'keep') return step.type === 'keep' && over.type === 'keep' ? overKeep(step, over) : step
  if (step.type === 'set' || over.type === 'set') return step.type === 'set' && over.type === 'set' && step.key === over.key ? null : step
  if (over.type === 'paint') return overPaint(step, over)
  if (over.type === 'move') return overMove(step, over)
  if (over.type === 'replace') return overReplace(step, over)
  return overJoin(step, over)
}

const within = ({ from, to }: Stretch, frame: Frames): boolean => frame >= from && frame <= to
const inside = (inner: Stretch, outer: Stretch): boolean => inner.from > outer.from && inner.to < outer.to
const points = ({ from, to, at }: Move): Frames[] => [from, to, at]

function overJoin(step: PlacedStep, over: JoinStep | Heard): PlacedStep | null {
  if (over.at === null) return step
  if (step.type === 'heard') {
    if (step.at !== over.at || (over.type === 'heard' && step.heard === over.heard)) return step
    return over.type === 'join' ? { ...step, at: null } : null
  }
  if (over.type === 'heard') return step
  if (step.type === 'join') return step.at === over.at ? null : step
  if (step.type === 'move') return points(step).includes(over.at) ? null : step
  if (step.type === 'paint') return touchesJoin(step, over) ? null : step
  return within(step, over.at) ? null : step
}

/** Whether a paint and a change of a join meet: both set that join, or it is one that comes and goes with paints. */
const touchesJoin = ({ parts, joins = [] }: PaintStep, { at, join }: JoinStep): boolean =>
  joins.some((one) => one.at === at) || (join.origin === 'paint' && parts.some((part) => within(part, at)))

function overPaint(step: PlacedStep, over: PaintStep): PlacedStep | null {
  switch (step.type) {
    case 'heard':
      return over.joins?.some(({ at }) => at === step.at) ? { ...step, at: null } : step
    case 'join':
      return touchesJoin(over, step) ? null : step
    case 'move':
      return movable(over, step) ? step : null
    case 'replace':
      return clippable(over, step) ? step : null
    case 'paint': {
      const [mine, theirs] = [reachOfPaint(step), reachOfPaint(over)]
      const restored = step.joins?.length || over.joins?.length
      if (restored && mine && theirs && touches(mine, theirs)) return null
      return step.parts.some((a) => over.parts.some((b) => collide(a, b))) ? null : step
    }
  }
}

/** Whether what is painted goes along with what a move carries. */
const movable = ({ joins = [] }: PaintStep, move: Move): boolean => !joins.some(({ at }) => points(move).includes(at))

/**
 * Whether what is painted applies to what is left once a stretch was replaced: sound went, or came in its midst. What takes
 * the place of painted sound is no longer what was painted. A level line belongs to its own frames, whatever stands beside them.
 */
function clippable({ parts, joins = [] }: PaintStep, { from, to, insert }: Replace): boolean {
  if (joins.some(({ at }) => at >= from && at <= to)) return false
  if (from === to || insert.every(isRoom)) return true
  return parts.every((part) => part.what === 'line' || part.to <= from || part.from >= to)
}

/** A part cut at places within it. */
function cutAt(part: PaintPart, places: readonly Frames[]): PaintPart[] {
  const inner = [...new Set(places)].filter((place) => place > part.from && place < part.to).sort((a, b) => a - b)
  const edges = [part.from, ...inner, part.to]
  return edges.slice(1).map((to, i) => clipped(part, { from: edges[i], to }))
}

function overMove(step: PlacedStep, over: Move): PlacedStep | null {
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
        parts: step.parts.flatMap((part) => cutAt(part, points(over)).map((cut) => ({ ...cut, from: through(cut.from), to: end(cut.to) }))),
        ...(step.joins ? { joins: step.joins.map(({ at, join }) => ({ at: through(at), join })) } : {}),
      }
    case 'move': {
      if (touches(reachOfMove(step), reachOfMove(over)) && !nested(step, over) && !nested(over, step)) return null
      return { ...step, from: through(step.from), to: end(step.to), at: through(step.at) }
    }
  }
}

/** Whether all that one move touches lies within the passage of another, or between it and where it goes. */
function nested(inner: Move, outer: Move): boolean {
  const reach = reachOfMove(inner)
  const between = outer.at > outer.to ? { from: outer.to, to: outer.at } : { from: outer.at, to: outer.from }
  return inside(reach, outer) || inside(reach, between)
}

function overReplace(step: PlacedStep, over: Replace): PlacedStep | null {
  const by = lengthens(over)
  const shift = (frame: Frames) => (frame >= over.to ? frame + by : frame)
  switch (step.type) {
    case 'heard':
      return step.at === null ? step : within(over, step.at) ? { ...step, at: null } : { ...step, at: shift(step.at) }
    case 'join':
      return within(over, step.at) ? null : { ...step, at: shift(step.at) }
    case 'replace':
      return touches(step, over) ? null : { ...step, from: shift(step.from), to: shift(step.to) }
    case 'move':
      return points(step).some((point) => within(over, point))
        ? null
        : { ...step, from: shift(step.from), to: shift(step.to), at: shift(step.at) }
    case 'paint': {
      if (!clippable(step, over)) return null
      const parts = step.parts.flatMap((part) => {
        const [before, after] = [Math.min(part.to, over.from), Math.max(part.from, over.to)]
        const rest = after < part.to ? clipped(part, { from: after, to: part.to }) : null
        return [
          ...(before > part.from ? [clipped(part, { from: part.from, to: before })] : []),
          ...(rest ? [{ ...rest, from: rest.from + by, to: rest.to + by }] : []),
        ]
      })
      return { ...step, parts, ...(step.joins ? { joins: step.joins.map(({ at, join }) => ({ at: shift(at), join })) } : {}) }
    }
  }
}
