import { clamp, type Frames, type Stretch } from '../time'
import { clipLength, mapPosition, type Actuality, type ActualityStep } from './actuality'
import { cuts, joinAt, plainJoin, sameLine, slice, spanAt, spanLength, standsFor, withoutJoin, type Cut, type Join, type Span } from './editList'

/** What is done to a piece, as steps. Positions are frames of the piece. */

type Piece = Pick<Actuality, 'spans' | 'head' | 'tail'>
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

/** Take out and close up: what follows moves up, to after `pause` frames of the room's own tone. */
export const takeOut = (piece: Piece, stretch: Stretch, join: Join = plainJoin(), pause: Frames = 0): Steps =>
  replacing(piece, stretch, pause ? roomInstead(piece, { from: stretch.from, to: Math.min(stretch.to, stretch.from + pause) }, join) : [], stretch.from === 0 ? null : join)

/** Take out and hold time: the room's own tone stands for what went. */
export const holdTime = (piece: Piece, stretch: Stretch, join: Join = plainJoin()): Steps => replacing(piece, stretch, roomInstead(piece, stretch, join), join)

const roomInstead = (piece: Piece, stretch: Stretch, join: Join): Span[] =>
  slice(piece.spans, stretch.from, stretch.to).map((span): Span => {
    const { level: _, patch: __, ...rest } = span
    return { ...rest, sound: 'tone', join: span.join ?? join }
  })

/** What was taken out at a cut: the stretch of tape between its two sides. Null where nothing lies between. */
export function takenOutAt({ left, right }: Cut): (Stretch & { tape: string }) | null {
  const [before, after] = [standsFor(left), standsFor(right)]
  if (before.tape !== after.tape || after.from <= before.to) return null
  return { tape: before.tape, from: before.to, to: after.from }
}

/** A nick: a place where something was taken out, closed up or held. */
export interface Nick {
  /** Where it stands in the piece, and how long the held time is (0 where it was closed up). */
  at: Frames
  held: Frames
  tape: string
  /** What went, on the tape. */
  from: Frames
  to: Frames
}

/** All nicks of a piece, in order. */
export function nicks(piece: Pick<Piece, 'spans'>): Nick[] {
  const found: Nick[] = []
  for (const cut of cuts(piece.spans)) {
    const gone = takenOutAt(cut)
    if (gone) found.push({ at: cut.at, held: 0, ...gone })
  }
  let start = 0
  for (const span of piece.spans) {
    if (span.sound === 'tone') found.push({ at: start, held: spanLength(span), tape: span.tape, from: span.from, to: span.to })
    start += spanLength(span)
  }
  return found.sort((a, b) => a.at - b.at)
}

/** Brings back all that went at a nick, or the part of it that is given in frames of the tape. */
export function bringBack(piece: Piece, nick: Nick, part: Stretch = nick): Steps {
  const from = clamp(part.from, nick.from, nick.to)
  const to = clamp(part.to, from, nick.to)
  if (to <= from) return []
  const level = lineBeside(piece, nick)
  if (nick.held) {
    const at = nick.at + from - nick.from
    const end = at + to - from
    const runsOnLeft = from === nick.from
    const insert: Span[] = [{ tape: nick.tape, from, to, sound: 'tape', ...level, ...(runsOnLeft ? {} : { join: plainJoin() }) }]
    return replacing(piece, { from: at, to: end }, insert, to === nick.to ? null : plainJoin())
  }
  const join = joinAt(piece.spans, nick.at) ?? plainJoin()
  const insert: Span[] = [{ tape: nick.tape, from, to, sound: 'tape', ...level, ...(from === nick.from ? {} : { join }) }]
  return replacing(piece, { from: nick.at, to: nick.at }, insert, to === nick.to ? null : { ...join, heard: false })
}

/** The level line that goes on over what was taken out between two spans that share it. */
function lineBeside({ spans }: Piece, { at, held }: Nick): Pick<Span, 'level'> {
  const [left, right] = [slice(spans, at - 1, at)[0], slice(spans, at + held, at + held + 1)[0]]
  return left?.level && sameLine(left.level, right?.level) ? { level: left.level } : {}
}

/**
 * Moves one edge of a cut by frames, to the right where positive: the left side keeps more of its
 * tape, the right side less. Never past the span itself, nor past what the tape holds; where both
 * sides come of one tape, nor past the other side.
 */
export function moveEdge(piece: Piece, cut: Cut, side: 'left' | 'right', by: Frames, tapeLength: Frames): Steps {
  const join: Join = { ...cut.join, heard: false }
  const gone = takenOutAt(cut)
  if (side === 'left') {
    const { left } = cut
    const room = gone ? gone.to - gone.from : left.sound === 'tape' ? tapeLength - left.to : Infinity
    const move = clamp(by, -(spanLength(left) - 1), room)
    if (move === 0) return []
    if (move < 0) return replacing(piece, { from: cut.at + move, to: cut.at }, [], join)
    const more: Span = { ...left, from: left.to, to: left.to + move }
    delete more.join
    return replacing(piece, { from: cut.at, to: cut.at }, [more], join)
  }
  const { right } = cut
  const room = gone ? gone.to - gone.from : right.from
  const move = clamp(by, -room, spanLength(right) - 1)
  if (move === 0) return []
  if (move > 0) return replacing(piece, { from: cut.at, to: cut.at + move }, [], join)
  return replacing(piece, { from: cut.at, to: cut.at }, [{ ...right, from: right.from + move, to: right.from, join }], null)
}

/** Moves a cut as a whole: what one side gives, the other takes. */
export function moveCut(piece: Actuality, cut: Cut, by: Frames, tapeLength: Frames): Steps {
  const { left, right } = cut
  const low = -Math.min(spanLength(left) - 1, right.from)
  const high = Math.min(spanLength(right) - 1, tapeLength - left.to)
  const move = clamp(by, low, high)
  if (move === 0) return []
  const join: Join = { ...cut.join, heard: false }
  const insert: Span[] =
    move > 0
      ? [withoutJoin({ ...left, from: left.to, to: left.to + move })]
      : [{ ...right, from: right.from + move, to: right.from, join }]
  const stretch = move > 0 ? { from: cut.at, to: cut.at + move } : { from: cut.at + move, to: cut.at }
  return replacing(piece, stretch, insert, move > 0 ? join : null)
}

/** Marks the join at a position as heard. */
export function markHeard(piece: Piece, at: Frames): Steps {
  const found = spanAt(piece.spans, at)
  if (!found || found.start !== at || !found.span.join || found.span.join.heard) return []
  return [{ type: 'heard', at, heard: true }]
}

/** Puts both edges of a cut elsewhere on their tapes, with another join, and with a pause of the room's tone between them if one is asked for. */
export function setEdges(piece: Piece, { at, left, right }: Cut, edges: { left: Frames; right: Frames }, join: Join, pause: Frames = 0): Steps {
  const insert: Span[] = []
  if (edges.left > left.to) insert.push(withoutJoin({ ...left, from: left.to, to: edges.left }))
  if (pause) insert.push({ tape: left.tape, from: edges.left, to: edges.left + pause, sound: 'tone', join })
  if (edges.right < right.from) insert.push({ ...right, from: edges.right, to: right.from, join })
  const stretch = { from: at - clamp(left.to - edges.left, 0, spanLength(left) - 1), to: at + clamp(edges.right - right.from, 0, spanLength(right) - 1) }
  return replacing(piece, stretch, insert, edges.right < right.from ? null : join)
}
