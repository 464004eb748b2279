import { applyAll } from '../steps/document'
import { clamp, milliseconds, type Frames, type Stretch } from '../time'
import { actualityType, clipLength, type Actuality, type ActualityStep } from './actuality'
import { holdTime, replacing, roomAt, setEdges, takeOut } from './acts'
import { bringBack } from './bringBack'
import { edits, plainJoin, spanAt, spanLength, type Edit, type Join } from './editList'
import type { Nick } from './gone'

/** Gaps between words where a piece is cut. Places are frames of the piece. */

type Piece = Pick<Actuality, 'spans' | 'head' | 'tail' | 'cutHead' | 'cutTail'>

/**
 * Makes the gap at an edit longer by room tone, or shorter: added room goes first, then what lies between
 * the edit and the words on either side, `free` frames each. What cannot be had of it is left.
 */
export function changeGap(piece: Piece, edit: Edit, by: Frames, free: Record<'left' | 'right', Frames>): ActualityStep[] {
  const { at, left, right, room } = edit
  const fresh: Join = { ...edit.join, heard: false }
  const edges = { left: left.to, right: right.from }
  if (by === 0) return []
  if (by > 0) return setEdges(piece, edit, edges, fresh, room + by)
  const wanted = -by
  if (room) {
    const kept = Math.max(0, room - wanted)
    const shorter = setEdges(piece, edit, edges, fresh, kept)
    if (wanted <= room) return shorter
    const now = applyAll(actualityType, piece as Actuality, shorter)
    const rest = edits(now.spans).find((one) => one.at === at)
    return rest ? [...shorter, ...changeGap(now, rest, room - wanted, free)] : shorter
  }
  if (left.sound === 'tone') return shortened(piece, { from: at - Math.min(wanted, spanLength(left)), to: at }, fresh)
  if (right.sound === 'tone') return shortened(piece, { from: at, to: at + Math.min(wanted, spanLength(right)) }, fresh)
  // of the longer side more
  const most = { left: clamp(free.left, 0, spanLength(left) - 1), right: clamp(free.right, 0, spanLength(right) - 1) }
  const total = Math.min(wanted, most.left + most.right)
  if (total === 0) return []
  const share = Math.round((total * most.left) / (most.left + most.right))
  const before = Math.min(most.left, Math.max(total - most.right, share))
  return setEdges(piece, edit, { left: left.to - before, right: right.from + total - before }, fresh)
}

/** Brings the gap at an edit to a length: what lies free beside it and the room that was added, together. */
export const setGap = (piece: Piece, edit: Edit, length: Frames, free: Record<'left' | 'right', Frames>): ActualityStep[] =>
  changeGap(piece, edit, Math.max(0, length) - (free.left + edit.room + free.right), free)

/** Words of a piece where they sound in it. */
type Said = readonly { at: Frames; end: Frames }[]

/** How much of the tape lies free between an edit and the words on either side of it; added room is not counted. */
export function freeBeside(said: Said, { at, room }: Pick<Edit, 'at' | 'room'>, length: Frames): Record<'left' | 'right', Frames> {
  const last = said.filter(({ end }) => end <= at + 1).at(-1)
  const next = said.find((word) => word.at >= at + room - 1)
  return { left: Math.max(0, at - (last?.end ?? 0)), right: Math.max(0, (next?.at ?? length) - at - room) }
}

/** The longest pause within a stretch; null if somebody speaks throughout. */
export function pauseWithin(said: Said, { from, to }: Stretch): Stretch | null {
  const edges = [from, ...said.filter(({ at, end }) => end > from && at < to).flatMap(({ at, end }) => [at, end]), to]
  let best: Stretch | null = null
  for (let i = 0; i < edges.length; i += 2) {
    const pause = { from: Math.max(from, edges[i]), to: Math.min(to, edges[i + 1]) }
    if (pause.to > pause.from && (!best || pause.to - pause.from > best.to - best.from)) best = pause
  }
  return best
}

/** The gaps at many edits, each longer or shorter by as much. Held time has an edit on either side, and is one gap. */
export function changeGaps(piece: Actuality, all: readonly Edit[], by: Frames, said: Said): ActualityStep[] {
  const steps: ActualityStep[] = []
  let now = piece
  // the last first: what changes there moves none before it
  for (const { at } of all.filter(({ right }, i) => right.sound !== 'tone' || all[i + 1]?.left !== right).reverse()) {
    const edit = edits(now.spans).find((one) => one.at === at)
    if (!edit) continue
    const more = changeGap(now, edit, by, freeBeside(said, edit, clipLength(now)))
    now = applyAll(actualityType, now, more)
    steps.push(...more)
  }
  return steps
}

const shortened = (piece: Piece, stretch: { from: Frames; to: Frames }, join: Join): ActualityStep[] =>
  stretch.to > stretch.from ? replacing(piece, stretch, [], join) : []

/** A pause is never made shorter than this by a key. */
const LEAST_PAUSE: Frames = milliseconds(20)
const PAUSE_FADE: Frames = milliseconds(16)

/**
 * Makes a pause that nobody cut longer by room tone in its middle, or shorter by what lies there; its
 * ends, where words die away and breaths begin, stay as they are. Empty if it is as short as it can be.
 */
export function changePause(piece: Piece, { from, to }: Stretch, by: Frames): ActualityStep[] {
  const middle = Math.round((from + to) / 2)
  if (!spanAt(piece.spans, middle)) return []
  const join: Join = { fade: PAUSE_FADE, shape: 'power', origin: 'hand', heard: false }
  if (by > 0) {
    const room = roomAt(piece, middle, by, join)
    return room.length ? replacing(piece, { from: middle, to: middle }, room, join) : []
  }
  const less = Math.min(-by, to - from - LEAST_PAUSE)
  const start = middle - (less >> 1)
  return less > 0 ? takeOut(piece, { from: start, to: start + less }, join) : []
}

/** Steps that close the gap where time was held, or hold time where the gap was closed. */
export function holdOrClose(piece: Actuality, nick: Nick): ActualityStep[] {
  if (nick.how === 'head' || nick.how === 'tail') return []
  const edit = edits(piece.spans).find((one) => one.at === nick.at + nick.held)
  const { took: _, ...join } = edit?.join ?? plainJoin()
  const back = bringBack(piece, nick)
  const now = applyAll(actualityType, piece, back)
  const length = clipLength(now) - clipLength(piece) + (nick.held || (edit?.room ?? 0))
  const stretch = { from: nick.at, to: nick.at + length }
  return [...back, ...(nick.held ? takeOut : holdTime)(now, stretch, { ...join, heard: false })]
}
