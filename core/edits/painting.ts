import type { Frames, Stretch } from '../time'
import type { PaintPart, PaintStep } from './actualitySteps'
import { normal, slice, spanLength, stands, listLength, type EditList, type Join, type Span } from './editList'

/** What is painted over stretches of a piece: mutes, and one side's delay and level. Positions are frames of the piece. */

/** The values by side with one of them changed; undefined if all are `none`. */
function bySide<V>(values: readonly V[] | undefined, side: number, value: V, none: V): V[] | undefined {
  const changed = Array.from({ length: Math.max(values?.length ?? 0, side + 1) }, (_, i) => (i === side ? value : (values?.[i] ?? none)))
  while (changed.length && changed[changed.length - 1] === none) changed.pop()
  return changed.length ? changed : undefined
}

function painted(span: Span, paint: PaintPart): Span {
  // added room has no speaker and is silent of words already
  if (!stands(span)) return span
  if (paint.what === 'mute') {
    const { mute: _, ...rest } = span
    return paint.value ? { ...rest, mute: true } : rest
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
function valueOf(span: Span, paint: PaintPart): PaintPart['value'] {
  if (paint.what === 'mute') return span.mute ?? null
  if (paint.what === 'side') return span.mutes?.[paint.side] ?? null
  if (paint.what === 'level') return span.levels?.[paint.side] ?? 0
  return span.slip?.[paint.side] ?? 0
}

/** Whether two parts paint the same thing over a common place. */
export const collide = (a: PaintPart, b: PaintPart): boolean =>
  a.from < b.to && b.from < a.to && a.what === b.what && sideOf(a) === sideOf(b)

const sideOf = (part: PaintPart): number => (part.what === 'mute' ? -1 : part.side)

/** Throws RangeError where a part lies outside the piece. */
export function applyPaint(spans: EditList, { parts, joins = [] }: PaintStep): EditList {
  const end = listLength(spans)
  let list: EditList = spans
  for (const part of parts) {
    if (part.from < 0 || part.to <= part.from || part.to > end) throw new RangeError('the stretch lies outside the piece')
    const after = slice(list, part.to, end)
    list = normal([...slice(list, 0, part.from), ...slice(list, part.from, part.to).map((span) => painted(span, part)), ...after])
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
  for (const part of parts) {
    const before: PaintPart[] = []
    let at = part.from
    for (const span of slice(list, part.from, part.to)) {
      const { from: _, to: __, value: ___, ...what } = part
      before.push({ ...what, from: at, to: at + spanLength(span), value: valueOf(span, part) } as PaintPart)
      at += spanLength(span)
    }
    back.unshift(...before)
    list = applyPaint(list, { type: 'paint', parts: [part] })
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
