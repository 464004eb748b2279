import type { Stretch } from '../time'
import type { Actuality, ActualityStep } from './actuality'
import { joinAt, slice, spanLength, withoutJoin, type Span } from './editList'

/** What is muted stays in its place and is shown, but neither heard nor sent: the room's tone takes its time. */

type Piece = Pick<Actuality, 'spans'>

/** The muted stretches of a piece, in order. */
export function muted({ spans }: Piece): (Stretch & { span: Span })[] {
  let to = 0
  return spans.flatMap((span) => {
    const from = to
    to += spanLength(span)
    return span.mute ? [{ from, to, span }] : []
  })
}

/** Mutes a stretch, or has it heard again where some of it is muted. Joins stay as they are; at its ends fresh ones come. */
export function toggleMute({ spans }: Piece, { from, to }: Stretch): ActualityStep[] {
  const part = slice(spans, from, to)
  if (!part.length) return []
  const silent = part.some((span) => span.mute)
  const insert = part.map(({ mute: _, ...span }): Span => (silent ? span : { ...span, mute: true }))
  // the joins that muting made go with it, so that what was one runs on again
  const runs = silent ? insert.map((span, i) => (i > 0 || !madeByMuting(spans, from) ? span : withoutJoin(span))) : insert
  return [{ type: 'replace', from, to, insert: runs, after: silent && madeByMuting(spans, to) ? null : joinAt(spans, to) }]
}

/** Whether at a place the tape runs on, and but for what is muted there would be no join. */
function madeByMuting(spans: Piece['spans'], at: number): boolean {
  const [left, right] = [slice(spans, at - 1, at)[0], slice(spans, at, at + 1)[0]]
  return left !== undefined && right !== undefined && left.tape === right.tape && left.sound === right.sound && left.to === right.from && left.mute !== right.mute && right.join?.origin !== 'split'
}
