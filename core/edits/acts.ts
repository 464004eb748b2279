import { clamp, type Frames, type Stretch } from '../time'
import { clipLength, mapPosition, type Actuality, type ActualityStep } from './actuality'
import {
  joinAt,
  normal,
  plainJoin,
  runsOn,
  slice,
  spanAt,
  spanLength,
  stands,
  withoutJoin,
  type Edit,
  type Join,
  type Span,
  type Taken,
} from './editList'
import { betweenSides } from './gone'

/** What is done to a piece, as steps. Positions are frames of the piece. */

type Piece = Pick<Actuality, 'spans' | 'head' | 'tail' | 'cutHead' | 'cutTail'>
type Steps = ActualityStep[]

/** The steps that keep the handles where they were, seen from the words, once `step` is applied. */
function handlesAfter(piece: Piece, step: ActualityStep, length: Frames): Steps {
  const head = clamp(mapPosition(step, piece.head, 'before'), 0, length)
  const wordsEnd = clamp(mapPosition(step, clipLength(piece) - piece.tail, 'after'), head, length)
  const steps: Steps = []
  if (head !== piece.head) steps.push({ type: 'set', key: 'head', value: head })
  if (length - wordsEnd !== piece.tail) steps.push({ type: 'set', key: 'tail', value: length - wordsEnd })
  return steps
}

/** `[from, to)` gives way to other spans; the handles stay with the words. */
export function replacing(piece: Piece, { from, to }: Stretch, insert: Span[], after: Join | null): Steps {
  const step: ActualityStep = { type: 'replace', from, to, insert, after }
  const length = clipLength(piece) - (to - from) + insert.reduce((sum, span) => sum + spanLength(span), 0)
  return [step, ...handlesAfter(piece, step, length)]
}

/** The spans on either side of a stretch; undefined at the ends of the piece. */
export const beside = (piece: Pick<Piece, 'spans'>, { from, to }: Stretch): { before: Span | undefined; after: Span | undefined } => ({
  before: slice(piece.spans, from - 1, from)[0],
  after: slice(piece.spans, to, to + 1)[0],
})

/** `length` frames of the room beside a place of the piece; its tone is taken from there. Empty where nothing lies before it. */
export function roomAt(piece: Pick<Piece, 'spans'>, place: Frames, length: Frames, join: Join): Span[] {
  const before = place > 0 ? spanAt(piece.spans, place - 1) : null
  if (!before || length <= 0) return []
  const from = before.span.from + place - before.start
  return [{ tape: before.span.tape, from, to: from + length, sound: 'room', join }]
}

/** Whether what goes can be told from the tape alone: one stretch of it that runs on from what is before it into what follows. */
function isPlain(piece: Piece, stretch: Stretch, went: readonly Span[]): boolean {
  const [only, ...others] = went
  const { before, after } = beside(piece, stretch)
  if (others.length || only.sound !== 'tape' || only.join || only.patch || joinAt(piece.spans, stretch.to)) return false
  return before !== undefined && after !== undefined && runsOn(before, only) && runsOn(only, after)
}

/** A join at which a passage was taken out; it remembers what the tape alone does not tell. */
function tookAt(piece: Piece, stretch: Stretch, join: Join): Join {
  const { took: _, ...fresh } = join
  const spans = slice(piece.spans, stretch.from, stretch.to)
  return isPlain(piece, stretch, spans) ? fresh : { ...fresh, took: { spans, after: joinAt(piece.spans, stretch.to) } }
}

/** Takes a passage off an end of the piece; it, and the handle that was there, are remembered. */
function cutEnd(piece: Piece, stretch: Stretch): Steps {
  const went = slice(piece.spans, stretch.from, stretch.to)
  const atHead = stretch.from === 0
  const key = atHead ? 'cutHead' : 'cutTail'
  const before = piece[key]
  const spans = normal(atHead ? [...(before?.spans ?? []), ...went] : [...went, ...(before?.spans ?? [])])
  const handle = before?.handle ?? (atHead ? piece.head : piece.tail)
  return [...replacing(piece, stretch, [], null), { type: 'set', key, value: { spans, handle } }]
}

/** Take out and close up: what follows moves up, to after `pause` frames of the room's own tone. */
export function takeOut(piece: Piece, stretch: Stretch, join: Join = plainJoin(), pause: Frames = 0): Steps {
  // where only room would be left beyond it, it is the end that goes
  const end = clipLength(piece)
  if (!slice(piece.spans, 0, stretch.from).some(stands)) return cutEnd(piece, { from: 0, to: stretch.to })
  if (!slice(piece.spans, stretch.to, end).some(stands)) return cutEnd(piece, { from: stretch.from, to: end })
  const { before, after } = beside(piece, stretch)
  // what had been put in leaves nothing behind
  if (!pause && before && after && runsOn(before, after)) return replacing(piece, stretch, [], null)
  const taken = tookAt(piece, stretch, join)
  const insert = roomAt(piece, stretch.from, pause, taken)
  const { took: _, ...closing } = join
  return replacing(piece, stretch, insert, insert.length ? closing : taken)
}

/** Take out and hold time: the room's own tone stands for what went, and keeps what was done there. */
export function holdTime(piece: Piece, stretch: Stretch, join: Join = plainJoin()): Steps {
  // a join that is there stays as it was made, to be there again once the passage comes back
  const closing = { ...(joinAt(piece.spans, stretch.to) ?? join), heard: false }
  return replacing(piece, stretch, heldInstead(piece, stretch, join), stretch.to === clipLength(piece) ? null : closing)
}

const heldInstead = (piece: Piece, stretch: Stretch, join: Join): Span[] =>
  slice(piece.spans, stretch.from, stretch.to).map((span): Span => ({
    ...span,
    sound: stands(span) ? 'tone' : 'room',
    join: span.join ?? join,
  }))

/**
 * Moves one edge of an edit by frames, to the right where positive: the left side keeps more of its
 * tape, the right side less. Never past the span itself, nor past what the tape holds; where both
 * sides come of one tape, nor past the other side.
 */
export function moveEdge(piece: Piece, edit: Edit, side: 'left' | 'right', by: Frames, tapeLength: Frames): Steps {
  const { left, right, room } = edit
  const join: Join = { ...edit.join, heard: false }
  const gone = betweenSides(edit)
  const free = gone ? gone.to - gone.from : Infinity
  if (side === 'left') {
    const move = clamp(by, -(spanLength(left) - 1), Math.min(free, left.sound === 'tape' ? tapeLength - left.to : Infinity))
    return move === 0 ? [] : setEdges(piece, edit, { left: left.to + move, right: right.from }, join, room)
  }
  const move = clamp(by, -Math.min(free, right.from), spanLength(right) - 1)
  return move === 0 ? [] : setEdges(piece, edit, { left: left.to, right: right.from + move }, join, room)
}

/** Moves an edit as a whole: what one side gives, the other takes. */
export function moveCut(piece: Piece, edit: Edit, by: Frames, tapeLength: Frames): Steps {
  const { left, right, room } = edit
  const low = -Math.min(spanLength(left) - 1, right.from)
  const high = Math.min(spanLength(right) - 1, tapeLength - left.to)
  const move = clamp(by, low, high)
  return move === 0 ? [] : setEdges(piece, edit, { left: left.to + move, right: right.from + move }, { ...edit.join, heard: false }, room)
}

/** Puts both edges of an edit elsewhere on their tapes, with another join, and with `room` frames of the room's tone between them. */
export function setEdges(piece: Piece, edit: Edit, edges: { left: Frames; right: Frames }, join: Join, room: Frames = 0): Steps {
  const { at, left, right } = edit
  const trimmed = {
    left: clamp(left.to - edges.left, 0, spanLength(left) - 1),
    right: clamp(edges.right - right.from, 0, spanLength(right) - 1),
  }
  const { took: _, ...bare } = join
  const took = stillTaken(edit, edges, trimmed)
  const first: Join = { ...bare, ...(took ? { took } : {}) }
  const insert: Span[] = []
  if (edges.left > left.to) insert.push(withoutJoin({ ...left, from: left.to, to: edges.left }))
  if (room > 0) insert.push({ tape: left.tape, from: edges.left, to: edges.left + room, sound: 'room', join: first })
  const closing = room > 0 ? bare : first
  if (edges.right < right.from) insert.push({ ...right, from: edges.right, to: right.from, join: closing })
  const stretch = { from: at - trimmed.left, to: at + edit.room + trimmed.right }
  return replacing(piece, stretch, insert, edges.right < right.from ? null : closing)
}

/** What an edit has taken once its edges lie elsewhere: what is trimmed goes with what was taken before. */
function stillTaken(
  { left, right, join: { took } }: Edit,
  edges: { left: Frames; right: Frames },
  trimmed: { left: Frames; right: Frames },
): Taken | null {
  const inOrder = left.tape === right.tape && !left.patch && !right.patch && edges.right >= edges.left
  if (!took && (inOrder || (!trimmed.left && !trimmed.right))) return null
  const before = withoutJoin({ ...left, from: left.to - trimmed.left })
  const after = withoutJoin({ ...right, to: right.from + trimmed.right })
  return { spans: normal([before, ...(took?.spans ?? []), after]), after: took?.after ?? null }
}

/** Marks the joins of the edit that begins, or ends, at a position as played. */
export function markHeard(piece: Pick<Piece, 'spans'>, at: Frames): Steps {
  const found = spanAt(piece.spans, at)
  if (!found || found.start !== at || !found.span.join) return []
  const here: Steps = found.span.join.heard ? [] : [{ type: 'heard', at, heard: true }]
  // added room has a join on either side, and is one gap
  return stands(found.span) ? here : [...here, ...markHeard(piece, at + spanLength(found.span))]
}
