import type { Frames, Stretch } from '../time'
import type { LinePart, PaintPart, PaintStep } from './actualitySteps'
import { putBetween, slice, spanLength, stands, listLength, type EditList, type Join, type Span } from './editList'

/** What is painted over stretches of a piece: mutes, low cuts, and one side's delay and level. Positions are frames of the piece. */

/** The values by side with one of them changed; undefined if all are `none`. */
function bySide<V>(values: readonly V[] | undefined, side: number, value: V, none: V): V[] | undefined {
  const changed = Array.from({ length: Math.max(values?.length ?? 0, side + 1) }, (_, i) => (i === side ? value : (values?.[i] ?? none)))
  while (changed.length && changed[changed.length - 1] === none) changed.pop()
  return changed.length ? changed : undefined
}

/** A part of a paint whose value is one for all of its stretch. */
type Plain = Exclude<PaintPart, { what: 'line' }>

function painted(span: Span, paint: Plain): Span {
  // added room has no speaker and is silent of words already
  if (!stands(span)) return span
  if (paint.what === 'mute') {
    const { mute: _, ...rest } = span
    return paint.value ? { ...rest, mute: true } : rest
  }
  if (paint.what === 'lowCut') {
    const { lowCut: _, ...rest } = span
    return paint.value === null ? rest : { ...rest, lowCut: paint.value }
  }
  if (paint.what === 'side') {
    const { mutes: before, ...rest } = span
    const mutes = bySide<boolean | null>(before, paint.side, paint.value, null)
    return mutes ? { ...rest, mutes } : rest
  }
  if (paint.what === 'level') {
    const { levels: before, ...rest } = span
    const levels = bySide(before, paint.side, paint.value, 0)
    return levels ? { ...rest, levels } : rest
  }
  const { slip: before, ...rest } = span
  const slip = bySide(before, paint.side, paint.value, 0)
  return slip ? { ...rest, slip } : rest
}

/** What a span has of what a part would paint. */
function valueOf(span: Span, paint: Plain): Plain['value'] {
  if (paint.what === 'mute') return span.mute ?? null
  if (paint.what === 'lowCut') return span.lowCut ?? null
  if (paint.what === 'side') return span.mutes?.[paint.side] ?? null
  if (paint.what === 'level') return span.levels?.[paint.side] ?? 0
  return span.slip?.[paint.side] ?? 0
}

const covers = (over: Stretch | null, at: Frames): boolean => !over || (at >= over.from && at <= over.to)

/** Only tape has a line. `origin`: the frame of the span's tape where the part begins. */
function withLine(span: Span, { over, points }: LinePart, origin: Frames): Span {
  if (span.sound !== 'tape') return span
  const { level: before = [], ...rest } = span
  const level = [...before.filter(({ at }) => !covers(over, at - origin)), ...points.map(({ at, dB }) => ({ at: at + origin, dB }))].sort(
    (a, b) => a.at - b.at,
  )
  if (level[0]?.at < 0) throw new RangeError('the line begins before its tape')
  return level.length ? { ...rest, level } : rest
}

/** The spans of a list that a part paints over, each with where it begins. */
function under(list: EditList, { from, to }: Stretch): { span: Span; start: Frames }[] {
  let at = from
  return slice(list, from, to).map((span) => {
    const start = at
    at += spanLength(span)
    return { span, start }
  })
}

/** What paints a span as it was. */
function asBefore(part: PaintPart, span: Span, start: Frames): PaintPart {
  const stretch = { from: start, to: start + spanLength(span) }
  if (part.what !== 'line') return { ...part, ...stretch, value: valueOf(span, part) } as PaintPart
  const origin = span.from + part.from - start
  const points = (span.level ?? []).flatMap(({ at, dB }) => (covers(part.over, at - origin) ? [{ at: at - span.from, dB }] : []))
  return { what: 'line', ...stretch, over: part.over && shifted(part.over, part.from - start), points }
}

const shifted = ({ from, to }: Stretch, by: Frames): Stretch => ({ from: from + by, to: to + by })

/** The part of a paint over a stretch within its own. */
export function clipped(part: PaintPart, stretch: Stretch): PaintPart {
  if (part.what !== 'line') return { ...part, ...stretch }
  const by = part.from - stretch.from
  return { ...part, ...stretch, over: part.over && shifted(part.over, by), points: part.points.map(({ at, dB }) => ({ at: at + by, dB })) }
}

/** Whether two parts paint the same thing over a common place. */
export function collide(a: PaintPart, b: PaintPart): boolean {
  if (a.from >= b.to || b.from >= a.to) return false
  if (a.what !== 'line' || b.what !== 'line') return a.what === b.what && sideOf(a) === sideOf(b)
  return !a.over || !b.over || (a.from + a.over.from <= b.from + b.over.to && b.from + b.over.from <= a.from + a.over.to)
}

const sideOf = (part: PaintPart): number => ('side' in part ? part.side : -1)

/** Throws RangeError where a part lies outside the piece. */
export function applyPaint(spans: EditList, { parts, joins = [] }: PaintStep): EditList {
  const end = listLength(spans)
  let list: EditList = spans
  for (const part of parts) {
    if (part.from < 0 || part.to <= part.from || part.to > end) throw new RangeError('the stretch lies outside the piece')
    const over = under(list, part).map(({ span, start }) =>
      part.what === 'line' ? withLine(span, part, span.from + part.from - start) : painted(span, part),
    )
    list = putBetween(slice(list, 0, part.from), over, slice(list, part.to, end))
  }
  for (const { at, join } of joins) list = withPaintJoin(list, at, join)
  return list
}

/** The list with a join at a position as it was before a paint; unchanged if no join lies there. */
function withPaintJoin(list: EditList, at: Frames, join: Join): EditList {
  let start = 0
  return list.map((span, i) => {
    const here = start === at && i > 0 && span.join !== undefined
    start += spanLength(span)
    return here ? { ...span, join } : span
  })
}

/** Paints what was there, part by part, and puts the joins back that the paint took. */
export function invertPaint(spans: EditList, { parts }: PaintStep): PaintStep {
  const back: PaintPart[] = []
  let list = spans
  for (const [i, part] of parts.entries()) {
    back.unshift(...under(list, part).map(({ span, start }) => asBefore(part, span, start)))
    if (i < parts.length - 1) list = applyPaint(list, { type: 'paint', parts: [part] })
  }
  const [from, to] = [Math.min(...parts.map((part) => part.from)), Math.max(...parts.map((part) => part.to))]
  const joins: { at: Frames; join: Join }[] = []
  let start = 0
  for (const span of spans) {
    if (start >= from && start <= to && span.join?.origin === 'paint') joins.push({ at: start, join: span.join })
    start += spanLength(span)
  }
  return { type: 'paint', parts: back, ...(joins.length ? { joins } : {}) }
}

/** The stretch that all parts lie in, with the joins that are set; null where nothing is painted. */
export function reachOfPaint({ parts, joins = [] }: PaintStep): Stretch | null {
  const all = [...parts.flatMap(({ from, to }) => [from, to]), ...joins.map(({ at }) => at)]
  return all.length ? { from: Math.min(...all), to: Math.max(...all) } : null
}
