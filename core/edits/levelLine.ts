import { lineAt, type LevelPoint } from '../sound/level'
import { clamp, milliseconds, type Frames, type Stretch } from '../time'
import type { Actuality, ActualityStep } from './actuality'
import type { LinePart } from './actualitySteps'
import { spanLength, type Span } from './editList'

/** Level lines of a piece, drawn from selections. A line stays with the frames of the tape that it was drawn on. */

/** The lowest and highest level of a line, in dB. */
const [LOWEST, HIGHEST] = [-60, 24]
/** A level within what a line can do, in tenths of a dB. */
export const heldLevel = (dB: number): number => Math.round(10 * clamp(dB, LOWEST, HIGHEST)) / 10
/** A change of level eases in and out within this. */
const SHOULDER: Frames = milliseconds(25)

/**
 * Changes the level over a stretch: `level` gives what a level becomes, in dB. The change eases in
 * and out over `shoulder` frames inside the stretch; beyond it the line stays. It makes no cut.
 */
export function shapeLevel(
  piece: Pick<Actuality, 'spans'>,
  stretch: Stretch,
  level: (dB: number) => number,
  shoulder: Frames = SHOULDER,
): ActualityStep[] {
  const held = (dB: number) => heldLevel(level(dB))
  return overSpans(piece, stretch, ({ level: line = [] }, a, b) => shaped(line, a, b, Math.min(shoulder, Math.floor((b - a) / 2)), held))
}

/** The level as recorded over a stretch: a span that lies in it loses its line. */
export const levelOff = (piece: Pick<Actuality, 'spans'>, stretch: Stretch): ActualityStep[] =>
  overSpans(piece, stretch, (span, a, b) =>
    !span.level || (a === span.from && b === span.to) ? [] : shaped(span.level, a, b, Math.min(SHOULDER, Math.floor((b - a) / 2)), () => 0),
  )

/**
 * Paints other points over a stretch: `points` gives those between frames `a` and `b` of a span's tape. A line that would
 * be as recorded all along is taken off.
 */
function overSpans(
  { spans }: Pick<Actuality, 'spans'>,
  stretch: Stretch,
  points: (span: Span, a: Frames, b: Frames) => LevelPoint[],
): ActualityStep[] {
  let start = 0
  const parts = spans.flatMap((span): LinePart[] => {
    const from = start
    const to = (start += spanLength(span))
    const a = span.from + Math.max(0, stretch.from - from)
    const b = span.to - Math.max(0, to - stretch.to)
    if (b <= a || span.sound !== 'tape') return []
    const made = points(span, a, b)
    const before = span.level ?? []
    const line = [...before.filter(({ at }) => at < a || at > b), ...made].sort((one, other) => one.at - other.at)
    const whole = a === span.from && b === span.to
    const asRecorded = (whole ? made : line).every(({ dB }) => dB === 0)
    if (asRecorded && !span.level) return []
    if (whole) return [linePart(span, from, null, asRecorded ? [] : line)]
    if (!asRecorded) return [linePart(span, from, { from: a, to: b }, made)]
    const places = [a, b, ...before.map(({ at }) => at)]
    return [linePart(span, from, { from: Math.min(...places), to: Math.max(...places) }, [])]
  })
  return parts.length ? [{ type: 'paint', parts }] : []
}

/** A part that paints a span's line, from frames of its tape; `start` is where the span begins in the piece. */
export function linePart(span: Span, start: Frames, over: Stretch | null, points: readonly LevelPoint[]): LinePart {
  return {
    what: 'line',
    from: start,
    to: start + spanLength(span),
    over: over && { from: over.from - span.from, to: over.to - span.from },
    points: points.map(({ at, dB }) => ({ at: at - span.from, dB })),
  }
}

/** The part that turns a span's line into another one, as narrow as it can be; null if they are the same. */
export function lineChange(span: Span, start: Frames, line: readonly LevelPoint[]): LinePart | null {
  const before = span.level ?? []
  const same = (a: LevelPoint | undefined, b: LevelPoint | undefined) => a?.at === b?.at && a?.dB === b?.dB
  const shorter = Math.min(before.length, line.length)
  let [first, last] = [0, 0]
  while (first < shorter && same(before[first], line[first])) first++
  while (last < shorter - first && same(before.at(-1 - last), line.at(-1 - last))) last++
  const [out, points] = [before.slice(first, before.length - last), line.slice(first, line.length - last)]
  const places = [...out, ...points].map(({ at }) => at)
  return places.length ? linePart(span, start, { from: Math.min(...places), to: Math.max(...places) }, points) : null
}

/** The level line of a tape once what spans of a piece have of their own is applied to it; where the spans have none, the tape's stays. */
export function appliedLine(line: readonly LevelPoint[], spans: readonly Span[]): LevelPoint[] {
  let points = [...line]
  for (const { from, to, level } of spans) {
    if (!level) continue
    const edge = (at: Frames): LevelPoint => ({ at, dB: lineAt(points, at) })
    const [before, after] = [Math.max(0, from - SHOULDER), to + SHOULDER]
    points = [
      ...points.filter(({ at }) => at < before),
      ...(from > before ? [edge(before)] : []),
      { at: from, dB: lineAt(level, from) },
      ...level.filter(({ at }) => at > from && at < to),
      { at: to, dB: lineAt(level, to) },
      edge(after),
      ...points.filter(({ at }) => at > after),
    ]
  }
  return points
}

/** A line that is flat at 0 dB over a stretch. */
export const flattened = (line: readonly LevelPoint[], { from, to }: Stretch): LevelPoint[] =>
  appliedLine(line, [{ tape: '', from, to, sound: 'tape', level: [{ at: from, dB: 0 }] }])

/** The points of a line from `a` to `b` once the level there is another one, eased in and out over `soft` frames. */
function shaped(old: readonly LevelPoint[], a: Frames, b: Frames, soft: Frames, held: (dB: number) => number): LevelPoint[] {
  const points = [
    { at: a, dB: lineAt(old, a) },
    { at: a + soft, dB: held(lineAt(old, a + soft)) },
    ...old.filter((point) => point.at > a + soft && point.at < b - soft).map(({ at, dB }) => ({ at, dB: held(dB) })),
    { at: b - soft, dB: held(lineAt(old, b - soft)) },
    { at: b, dB: lineAt(old, b) },
  ]
  // a point between two of its own level says nothing; the first and the last hold the line beyond them in its place
  const last = points.length - 1
  return points.filter(({ at, dB }, i) => {
    if (i === 0) return true
    const telling = i === last || points[i - 1].dB !== dB || points[i + 1].dB !== dB
    return telling && points[i - 1].at !== at
  })
}
