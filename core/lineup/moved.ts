import { clipLength, type Actuality, type ActualityStep } from '../edits/actuality'
import { normal, tapesOf, type Patch, type Span } from '../edits/editList'
import type { Side } from '../tape/tape'
import type { Frames } from '../time'
import type { Onto } from './lineUp'

/** A frame of a source on the clock of the tape that it was joined into. */
export const onJoined = (frame: Frames, { offset, drift }: Onto): Frames => Math.round(offset + frame * (1 + drift))

/**
 * The steps that move a piece from one tape to the tape that it was joined into, where its frames lie
 * as `onto` says: what it keeps, its level lines and its joins come along, and the joined tape's sides
 * as they are set now. Null where the piece holds nothing of that tape.
 */
export function movedOver(
  piece: Actuality,
  source: string,
  joined: { id: string; frames: Frames; sides: Side[] },
  onto: Onto,
): ActualityStep[] | null {
  if (!tapesOf(piece.spans).includes(source)) return null
  const at = (frame: Frames) => Math.max(0, Math.min(joined.frames, onJoined(frame, onto)))
  const patched = (patch: Patch, ownTape: string): Patch => ({
    ...patch,
    ...(patch.tape === source ? { tape: joined.id, from: at(patch.from), to: at(patch.to) } : {}),
    ...(ownTape === source ? { laid: { from: at(patch.laid.from), to: at(patch.laid.to) } } : {}),
  })
  const spans = piece.spans.map(({ patch, ...bare }): Span => {
    const span: Span = patch ? { ...bare, patch: patched(patch, bare.tape) } : bare
    if (span.tape !== source) return span
    const { level } = span
    return {
      ...span,
      tape: joined.id,
      from: at(span.from),
      to: at(span.to),
      ...(level ? { level: level.map((point) => ({ ...point, at: at(point.at) })) } : {}),
    }
  })
  const { [source]: _, ...others } = piece.sides ?? {}
  return [
    { type: 'replace', from: 0, to: clipLength(piece), insert: normal(spans), after: null },
    { type: 'set', key: 'sides', value: { ...others, [joined.id]: joined.sides } },
  ]
}
