import { lineAt, type LevelPoint } from '../sound/level'
import { clamp, milliseconds, type Frames } from '../time'
import type { Actuality, ActualityStep } from './actuality'
import { spanAt, spanLength, type Span } from './editList'
import { heldLevel, lineChange } from './levelLine'

/**
 * Single points of level lines: added, moved, typed, removed. Places are frames of the piece; a point belongs to the
 * span that it lies in. A shoulder is a point beside which the line goes on flat: it keeps its distance to the point
 * that is moved, so that what comes and goes does so in the same time.
 */

type Piece = Pick<Actuality, 'spans'>

/** A new point is reached within this, unless another point is nearer. */
const SHOULDER: Frames = milliseconds(250)

/** The points of all lines that lie within their spans, in order. */
export function levelPoints({ spans }: Piece): LevelPoint[] {
  let start = 0
  return spans.flatMap((span) => {
    const offset = start - span.from
    start += spanLength(span)
    return (span.level ?? []).filter(({ at }) => at >= span.from && at <= span.to).map(({ at, dB }) => ({ at: at + offset, dB }))
  })
}

/**
 * Puts a point on the line where it is, with a shoulder on either side where no other point is near. Empty in added room,
 * or if a point stands there already.
 */
export function addPoint(piece: Piece, at: Frames): ActualityStep[] {
  return onSpan(piece, at, (span, frame) => {
    const line = span.level ?? []
    if (span.sound !== 'tape' || line.some((point) => point.at === frame)) return null
    const before = line.filter((point) => point.at < frame).at(-1)?.at ?? -Infinity
    const after = line.find((point) => point.at > frame)?.at ?? Infinity
    const level = (place: Frames): LevelPoint => ({ at: place, dB: heldLevel(lineAt(line, place)) })
    const shoulders = [
      ...(frame - before > 2 * SHOULDER ? [level(Math.max(span.from, frame - SHOULDER))] : []),
      ...(after - frame > 2 * SHOULDER ? [level(Math.min(span.to, frame + SHOULDER))] : []),
    ].filter((point) => point.at !== frame)
    return [...line, ...shoulders, level(frame)].sort((a, b) => a.at - b.at)
  })
}

/**
 * Moves the point that stands at a place to another place and level, within its span and never past a neighbour; its
 * shoulders go along. Empty if no point stands there.
 */
export function movePoint(piece: Piece, at: Frames, to: LevelPoint): ActualityStep[] {
  return onSpan(piece, at, (span, frame, start) => {
    const line = [...(span.level ?? [])]
    const index = line.findIndex((point) => point.at === frame)
    if (index < 0) return null
    const wanted = span.from + to.at - start
    const [left, right] = [shoulderAt(line, index, -1), shoulderAt(line, index, 1)]
    // beyond a shoulder lies what it may not pass
    const low = Math.max(span.from, (line[index - (left ? 2 : 1)]?.at ?? -Infinity) + (left ? 2 : 1))
    const high = Math.min(span.to, (line[index + (right ? 2 : 1)]?.at ?? Infinity) - (right ? 2 : 1))
    const place = clamp(wanted, low, high)
    if (left)
      line[index - 1] = {
        ...left,
        at: clamp(left.at + place - frame, Math.min(left.at, (line[index - 2]?.at ?? -Infinity) + 1), place - 1),
      }
    if (right)
      line[index + 1] = {
        ...right,
        at: clamp(right.at + place - frame, place + 1, Math.max(right.at, (line[index + 2]?.at ?? Infinity) - 1)),
      }
    line[index] = { at: place, dB: heldLevel(to.dB) }
    return line
  })
}

/** Removes the point that stands at a place, and shoulders that then say nothing. */
export function removePoint(piece: Piece, at: Frames): ActualityStep[] {
  return onSpan(piece, at, (span, frame) => {
    const line = span.level ?? []
    if (!line.some((point) => point.at === frame)) return null
    const left = line.filter((point) => point.at !== frame)
    const telling = left.filter(({ dB }, i) => (left[i - 1]?.dB ?? dB) !== dB || (left[i + 1]?.dB ?? dB) !== dB)
    // a line that is flat now is told by one point, unless it is as recorded
    return telling.length || !left[0]?.dB ? telling : [left[0]]
  })
}

/** The neighbour of a point if it is a shoulder: the line goes on flat beyond it. */
function shoulderAt(line: readonly LevelPoint[], index: number, by: 1 | -1): LevelPoint | null {
  const [next, beyond] = [line[index + by], line[index + 2 * by]]
  return next && next.dB !== line[index].dB && (!beyond || beyond.dB === next.dB) ? next : null
}

/** Steps that give the span at a place another line, by frames of its tape; empty if `line` returns null. */
function onSpan(piece: Piece, at: Frames, line: (span: Span, frame: Frames, start: Frames) => LevelPoint[] | null): ActualityStep[] {
  const found = spanAt(piece.spans, at) ?? spanAt(piece.spans, at - 1)
  if (!found) return []
  const { span, start } = found
  const changed = line(span, span.from + at - start, start)
  const part = changed && lineChange(span, start, changed)
  return part ? [{ type: 'paint', parts: [part] }] : []
}
