import { clamp, milliseconds, type Frames, type Stretch } from '../time'
import type { Actuality, ActualityStep } from './actuality'
import { beside, replacing } from './acts'
import {
  joinAt,
  plainJoin,
  runsOn,
  sameTreatment,
  slice,
  spanLength,
  stands,
  standsFor,
  underneath,
  withoutJoin,
  type Join,
  type Patch,
  type Span,
} from './editList'

/** Sound laid over other sound. Positions are frames of the piece. */

type Piece = Pick<Actuality, 'spans' | 'head' | 'tail'>

/** What is laid over a stretch: frames of a tape, with its level changed in dB. */
export interface Laid extends Stretch {
  tape: string
  level?: number
  /** It says words of its own. */
  own?: true
}

/**
 * What a stretch of a piece stands for, as one stretch of tape; of what is not in one order, the first. Over added room
 * alone, that room.
 */
function stoodFor(over: readonly Span[]): Omit<Patch, 'laid'> {
  const standing = over.filter(stands)
  const all = standing.length ? standing : over
  const first = standsFor(all[0])
  const last = standsFor(all[all.length - 1])
  const inOrder = last.tape === first.tape && last.to > first.from
  const held = over.every((span) => span.sound !== 'tape')
  return {
    tape: first.tape,
    from: first.from,
    to: inOrder ? last.to : first.to,
    ...(held ? { held } : {}),
    ...(standing.length ? {} : { room: true }),
  }
}

/** Lays sound over a stretch. What it stands for is remembered, so that it can be taken off again. */
export function layPatch(piece: Piece, stretch: Stretch, laid: Laid, joins: { left: Join; right: Join }): ActualityStep[] {
  const over = slice(piece.spans, stretch.from, stretch.to)
  if (!over.length || laid.to <= laid.from) return []
  const { tape, from, to, level } = laid
  const plain = over.length === 1 && sameTreatment(over[0], { tape, from, to, sound: over[0].sound })
  // over several stretches it can only say words of its own
  const own = laid.own ?? (over.length > 1 ? true : undefined)
  const patch: Patch = { ...stoodFor(over), laid: { from, to }, ...(own ? { own } : {}), ...(plain ? {} : { under: over }) }
  const span: Span = {
    tape,
    from,
    to,
    sound: 'tape',
    patch,
    join: joins.left,
    ...(level ? { level: [{ at: from, dB: clamp(level, -60, 24) }] } : {}),
  }
  return replacing(piece, stretch, [span], joins.right)
}

/** What fills time goes over into itself within this. */
const FILL_FADE: Frames = milliseconds(80)
/** Shorter sound would be heard as a pattern. */
export const SHORTEST_FILL: Frames = milliseconds(300)

/**
 * Fills held time with another sound of a tape, again and again where that is shorter. It is marked
 * as a patch, and taking it off leaves the room's tone. Empty if the sound is too short.
 */
export function fillHeld(piece: Piece, { from, to }: Stretch, sound: Stretch & { tape: string }): ActualityStep[] {
  const length = sound.to - sound.from
  const over = slice(piece.spans, from, to)
  if (length < Math.min(SHORTEST_FILL, to - from) || !over.length) return []
  const stood = stoodFor(over)
  const join: Join = { fade: FILL_FADE, shape: 'power', origin: 'hand', heard: false }
  const insert: Span[] = []
  for (let at = 0; at < to - from; at += length) {
    const end = Math.min(at + length, to - from)
    const laid = { from: sound.from, to: sound.from + end - at }
    insert.push({
      tape: sound.tape,
      ...laid,
      sound: 'tape',
      join,
      patch: { ...stood, from: stood.from + at, to: stood.from + end, laid, own: true, held: true },
    })
  }
  return replacing(piece, { from, to }, insert, joinAt(piece.spans, to))
}

/** A patch of a piece, with where it lies. */
export interface PatchPlace extends Stretch {
  span: Span
  patch: Patch
}

/** The patches of a piece, in order; with a stretch, those that it touches. */
export function patches(piece: Pick<Piece, 'spans'>, within: Stretch = { from: -Infinity, to: Infinity }): PatchPlace[] {
  const found: PatchPlace[] = []
  let from: Frames = 0
  for (const span of piece.spans) {
    const to = from + spanLength(span)
    if (span.patch && from < within.to && to > within.from) found.push({ span, patch: span.patch, from, to })
    from = to
  }
  return found
}

/**
 * Takes a patch off: what it stood for sounds again. Where its joins were placed since it was laid,
 * it runs from where what is before it ends now to where what is after it begins: nothing is heard
 * twice, and nothing is lost.
 */
export function takeOffPatch(piece: Piece, { span, patch, from, to }: PatchPlace): ActualityStep[] {
  const under = underneath(span)
  if (under?.length && !placed(piece, span, to)) {
    const { before, after } = beside(piece, { from, to })
    const back = under.map((one, i): Span => (i === 0 ? withoutJoin(one) : one))
    if (before && !runsOn(before, back[0])) back[0] = { ...back[0], join: under[0].join ?? span.join ?? plainJoin() }
    const meets = !after || runsOn(back[back.length - 1], after)
    return replacing(piece, { from, to }, back, meets ? null : (joinAt(piece.spans, to) ?? plainJoin()))
  }
  const stood = standsFor(span)
  const sound = patch.room ? 'room' : patch.held ? 'tone' : 'tape'
  const [before, after] = [slice(piece.spans, Math.max(0, from - 1), from)[0], slice(piece.spans, to, to + 1)[0]]
  const goesOn = (next: Span | undefined): next is Span => next?.tape === stood.tape && next.sound === sound && !next.patch
  const [first, last] = [span.join?.asked, joinAt(piece.spans, to)?.asked]
  const placedFirst = first?.left === patch.from && first.right === patch.laid.from
  const placedLast = last?.left === patch.laid.to && last.right === patch.to
  let start = goesOn(before) && before.to < stood.to && (placedFirst || before.to >= stood.from) ? before.to : null
  let end = goesOn(after) && after.from > stood.from && (placedLast || after.from <= stood.to) ? after.from : null
  // what stands beside it may come from elsewhere on the tape, the other way round
  if (start !== null && end !== null && start >= end) [start, end] = [null, null]
  const insert: Span = {
    tape: stood.tape,
    from: start ?? stood.from,
    to: Math.max((start ?? stood.from) + 1, end ?? stood.to),
    sound,
    ...(start !== null || !span.join ? {} : { join: span.join }),
  }
  return replacing(piece, { from, to }, [insert], end !== null ? null : joinAt(piece.spans, to))
}

/** Whether the joins of a patch were moved since it was laid, so that its neighbours begin and end elsewhere. */
const placed = (piece: Piece, span: Span, to: Frames): boolean => Boolean(span.join?.asked ?? joinAt(piece.spans, to)?.asked)
