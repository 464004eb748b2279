import { lineAt, type LevelPoint } from '../sound/level'
import { clamp, milliseconds, type Frames, type Stretch } from '../time'
import type { Actuality, ActualityStep } from './actuality'
import { joinAt, spanLength, type Span } from './editList'

/** Level lines of a piece, drawn from selections. A line stays with the frames of the tape that it was drawn on. */

/** The lowest and highest level of a line, in dB. */
const [LOWEST, HIGHEST] = [-60, 24]
/** A level within what a line can do, in tenths of a dB. */
export const heldLevel = (dB: number): number => Math.round(10 * clamp(dB, LOWEST, HIGHEST)) / 10
/** A change of level eases in and out within this. */
const SHOULDER: Frames = milliseconds(25)

/**
 * Changes the level over a stretch: `level` gives what a level becomes, in dB. The change eases in
 * and out over `shoulder` frames inside the stretch; beyond it the line stays. The line is drawn
 * over the whole of each span that the stretch touches, so that no cut comes of it.
 */
export function shapeLevel(
  piece: Pick<Actuality, 'spans'>,
  stretch: Stretch,
  level: (dB: number) => number,
  shoulder: Frames = SHOULDER,
): ActualityStep[] {
  const held = (dB: number) => heldLevel(level(dB))
  return overSpans(piece, stretch, (span, a, b) =>
    withLine(span, lined(span.level ?? [], a, b, Math.min(shoulder, Math.floor((b - a) / 2)), held)),
  )
}

/** The level as recorded over a stretch: a span that lies in it loses its line. */
export const levelOff = (piece: Pick<Actuality, 'spans'>, stretch: Stretch): ActualityStep[] =>
  overSpans(piece, stretch, (span, a, b) =>
    withLine(
      span,
      a === span.from && b === span.to ? [] : lined(span.level ?? [], a, b, Math.min(SHOULDER, Math.floor((b - a) / 2)), () => 0),
    ),
  )

/** Changes the spans that a stretch touches, each between frames `a` and `b` of its tape. Room tone has no line. */
function overSpans(piece: Pick<Actuality, 'spans'>, stretch: Stretch, change: (span: Span, a: Frames, b: Frames) => Span): ActualityStep[] {
  let start = 0
  let from = Infinity
  let to = 0
  const insert: Span[] = []
  for (const span of piece.spans) {
    const end = start + spanLength(span)
    const a = span.from + Math.max(0, stretch.from - start)
    const b = span.to - Math.max(0, end - stretch.to)
    if (b > a) {
      from = Math.min(from, start)
      to = end
      insert.push(span.sound !== 'tape' ? span : change(span, a, b))
    }
    start = end
  }
  return insert.length ? [{ type: 'replace', from, to, insert, after: joinAt(piece.spans, to) }] : []
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

function lined(old: readonly LevelPoint[], a: Frames, b: Frames, soft: Frames, held: (dB: number) => number): LevelPoint[] {
  const points = [
    ...old.filter((point) => point.at < a),
    { at: a, dB: lineAt(old, a) },
    { at: a + soft, dB: held(lineAt(old, a + soft)) },
    ...old.filter((point) => point.at > a + soft && point.at < b - soft).map(({ at, dB }) => ({ at, dB: held(dB) })),
    { at: b - soft, dB: held(lineAt(old, b - soft)) },
    { at: b, dB: lineAt(old, b) },
    ...old.filter((point) => point.at > b),
  ]
  // a point on a flat line says nothing
  return points.filter(({ at, dB }, i) => (points[i - 1]?.dB !== dB || points[i + 1]?.dB !== dB) && points[i - 1]?.at !== at)
}

function withLine(span: Span, level: LevelPoint[]): Span {
  const { level: _, ...rest } = span
  return level.every(({ dB }) => dB === 0) ? rest : { ...rest, level }
}
