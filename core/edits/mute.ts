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

/** Mutes a stretch, or unmutes it. Joins stay as they are. */
export const mute = ({ spans }: Piece, { from, to }: Stretch, on: boolean): ActualityStep[] =>
  slice(spans, from, to).length ? [{ type: 'paint', parts: [{ from, to, what: 'mute', value: on || null }] }] : []

/** Mutes a stretch, or unmutes it where some of it is muted. */
export const toggleMute = (piece: Piece, stretch: Stretch): ActualityStep[] =>
  mute(piece, stretch, !slice(piece.spans, stretch.from, stretch.to).some((span) => span.mute))
