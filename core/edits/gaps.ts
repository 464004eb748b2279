import { applyAll } from '../steps/document'
import { milliseconds, type Frames, type Stretch } from '../time'
import { actualityType, clipLength, type Actuality, type ActualityStep } from './actuality'
import { replacing, type Nick } from './acts'
import { cuts, plainJoin, spanAt, spanLength, type Cut, type Join, type Span } from './editList'

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

/** Words of a piece where they sound in it. */
type Said = readonly { at: Frames; end: Frames }[]

/** How much lies free between a cut and the words on either side of it. */
export function freeBeside(said: Said, at: Frames, length: Frames): Record<'left' | 'right', Frames> {
  const last = said.filter(({ end }) => end <= at + 1).at(-1)
  const next = said.find((word) => word.at >= at - 1)
  return { left: Math.max(0, at - (last?.end ?? 0)), right: Math.max(0, (next?.at ?? length) - at) }
}

/** The longest stretch within one in which nobody speaks; null where somebody does all along. */
export function pauseWithin(said: Said, { from, to }: Stretch): Stretch | null {
  const edges = [from, ...said.filter(({ at, end }) => end > from && at < to).flatMap(({ at, end }) => [at, end]), to]
  let best: Stretch | null = null
  for (let i = 0; i < edges.length; i += 2) {
    const pause = { from: Math.max(from, edges[i]), to: Math.min(to, edges[i + 1]) }
    if (pause.to > pause.from && (!best || pause.to - pause.from > best.to - best.from)) best = pause
  }
  return best
}

/** The gaps at many cuts, each longer or shorter by as much. Room tone has a cut on either side, and is one gap. */
export function changeGaps(piece: Actuality, all: readonly Cut[], by: Frames, said: Said): ActualityStep[] {
  const steps: ActualityStep[] = []
  let now = piece
  // the last first: what changes there moves none before it
  for (const { at } of all.filter(({ right }, i) => right.sound !== 'tone' || all[i + 1]?.left !== right).reverse()) {
    const cut = cuts(now.spans).find((one) => one.at === at)
    if (!cut) continue
    const more = changeGap(now, cut, by, freeBeside(said, at, clipLength(now)))
    now = applyAll(actualityType, now, more)
    steps.push(...more)
  }
  return steps
}

const shortened = (piece: Piece, stretch: { from: Frames; to: Frames }, join: Join): ActualityStep[] => (stretch.to > stretch.from ? replacing(piece, stretch, [], join) : [])

/** A pause is never made shorter than this by a key. */
const LEAST_PAUSE: Frames = milliseconds(20)
const PAUSE_FADE: Frames = milliseconds(16)

/**
 * Makes a pause that nobody cut longer by room tone in its middle, or shorter by what lies there; its
 * ends, where words die away and breaths begin, stay as they are. Nothing where it is as short as may be.
 */
export function changePause(piece: Piece, { from, to }: Stretch, by: Frames): ActualityStep[] {
  const middle = Math.round((from + to) / 2)
  const found = spanAt(piece.spans, middle)
  if (!found) return []
  const join: Join = { fade: PAUSE_FADE, shape: 'power', origin: 'hand', heard: false }
  if (by > 0) {
    const frame = found.span.from + middle - found.start
    return replacing(piece, { from: middle, to: middle }, [{ tape: found.span.tape, from: frame, to: frame + by, sound: 'tone', join }], join)
  }
  const less = Math.min(-by, to - from - LEAST_PAUSE)
  return less > 0 ? replacing(piece, { from: middle - (less >> 1), to: middle - (less >> 1) + less }, [], join) : []
}

/** What was taken out closes up where time was held, and is held where it closed up. */
export function holdOrClose(piece: Piece, { at, held, tape, from, to }: Nick): ActualityStep[] {
  const join = piece.spans.find((span) => span.sound === 'tape' && span.from === to && span.join)?.join ?? plainJoin()
  if (held) return replacing(piece, { from: at, to: at + held }, [], at === 0 ? null : { ...join, heard: false })
  return replacing(piece, { from: at, to: at }, [{ tape, from, to, sound: 'tone', join: { ...join, heard: false } }], { ...join, heard: false })
}
