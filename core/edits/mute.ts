import type { Stretch } from '../time'
import type { Actuality, ActualityStep } from './actuality'
import { slice, spanLength, type Span } from './editList'

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

/** Mutes a stretch, or unmutes it where some of it is muted. Joins stay as they are. */
export function toggleMute({ spans }: Piece, { from, to }: Stretch): ActualityStep[] {
  const part = slice(spans, from, to)
  if (!part.length) return []
  return [{ type: 'paint', parts: [{ from, to, what: 'mute', value: part.some((span) => span.mute) ? null : true }] }]
}
