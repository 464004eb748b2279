import { clamp, type Frames } from '../time'
import { clipLength, type Actuality, type ActualityStep } from './actuality'
import { spanLength, withoutJoin, type Span } from './editList'

/** Room before the first word and after the last, which is faded in and out and lies over the neighbours on a page. */

type Piece = Pick<Actuality, 'spans' | 'head' | 'tail'>

/**
 * Makes the handle at one end longer by more of its tape, or shorter by less of it. The words stay
 * as long as they are. A handle never goes past its tape, of `tapeLength` frames.
 */
export function changeHandle(piece: Piece, end: 'head' | 'tail', by: Frames, tapeLength: Frames): ActualityStep[] {
  const length = clipLength(piece)
  const span = end === 'head' ? piece.spans[0] : piece.spans[piece.spans.length - 1]
  const room = end === 'head' ? span.from : tapeLength - span.to
  const move = clamp(by, -Math.min(piece[end], spanLength(span) - 1), Math.max(0, room))
  if (move === 0) return []
  const bare = withoutJoin(span)
  const more: Span[] = move < 0 ? [] : [end === 'head' ? { ...bare, from: span.from - move, to: span.from } : { ...bare, from: span.to, to: span.to + move }]
  const [from, to] = end === 'head' ? [0, Math.max(0, -move)] : [length - Math.max(0, -move), length]
  return [
    { type: 'replace', from, to, insert: more, after: null },
    { type: 'set', key: end, value: piece[end] + move },
  ]
}
