import type { Frames } from '../time'
import type { Actuality, ActualityStep } from './actuality'
import { replacing, type Nick } from './acts'
import { plainJoin, spanLength, type Cut, type Join, type Span } from './editList'

/** Gaps between words where a piece is cut. Places are frames of the piece. */

type Piece = Pick<Actuality, 'spans' | 'head' | 'tail'>

const bare = ({ join: _, level: __, patch: ___, ...span }: Span): Span => span

/**
 * Makes the gap at a cut longer by room tone, or shorter: tone goes first, then what lies between
 * the cut and the words on either side, `free` frames each. What cannot be had of it is left.
 */
export function changeGap(piece: Piece, { at, left, right, join }: Cut, by: Frames, free: Record<'left' | 'right', Frames>): ActualityStep[] {
  const fresh: Join = { ...join, heard: false }
  if (by > 0) {
    // grown where tone is already, so that it is one run
    if (left.sound === 'tone') return replacing(piece, { from: at, to: at }, [{ ...bare(left), from: left.to, to: left.to + by }], fresh)
    if (right.sound === 'tone' && right.from >= by) return replacing(piece, { from: at, to: at }, [{ ...bare(right), from: right.from - by, to: right.from, join: fresh }], null)
    return replacing(piece, { from: at, to: at }, [{ tape: left.tape, from: left.to, to: left.to + by, sound: 'tone', join: fresh }], fresh)
  }
  const wanted = -by
  if (left.sound === 'tone') return shortened(piece, { from: at - Math.min(wanted, spanLength(left)), to: at }, fresh)
  if (right.sound === 'tone') return shortened(piece, { from: at, to: at + Math.min(wanted, spanLength(right)) }, fresh)
  // of the longer side more
  const most = { left: Math.min(free.left, spanLength(left) - 1), right: Math.min(free.right, spanLength(right) - 1) }
  const total = Math.min(wanted, Math.max(0, most.left) + Math.max(0, most.right))
  const before = Math.min(Math.max(0, most.left), Math.max(total - Math.max(0, most.right), Math.round((total * Math.max(0, most.left)) / Math.max(1, most.left + most.right))))
  return shortened(piece, { from: at - before, to: at + total - before }, fresh)
}

const shortened = (piece: Piece, stretch: { from: Frames; to: Frames }, join: Join): ActualityStep[] => (stretch.to > stretch.from ? replacing(piece, stretch, [], join) : [])

/** What was taken out closes up where time was held, and is held where it closed up. */
export function holdOrClose(piece: Piece, { at, held, tape, from, to }: Nick): ActualityStep[] {
  const join = piece.spans.find((span) => span.sound === 'tape' && span.from === to && span.join)?.join ?? plainJoin()
  if (held) return replacing(piece, { from: at, to: at + held }, [], at === 0 ? null : { ...join, heard: false })
  return replacing(piece, { from: at, to: at }, [{ tape, from, to, sound: 'tone', join: { ...join, heard: false } }], { ...join, heard: false })
}
