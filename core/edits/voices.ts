import type { Side } from '../tape/tape'
import { wordsIn, type Word } from '../tape/words'
import { clamp, milliseconds, type Frames, type Stretch } from '../time'
import type { Actuality, ActualityStep } from './actuality'
import type { PaintPart } from './actualitySteps'
import { heldLevel } from './levelLine'
import { slice, spanLength, type Span } from './editList'
import { overlapsAny } from '../stretches'

/**
 * Two speakers, each on a side of its own: what one of them says can be muted where it is, or moved
 * apart from the other. A cut always goes through both. Places are frames of the piece.
 */

type Piece = Pick<Actuality, 'spans' | 'sides'>

/** No side is moved further than this. */
const FURTHEST: Frames = milliseconds(10_000)

/** The side that speaks least in a stretch of tape, of those that speak; null if none does. */
export function lesserSide(sides: readonly Side[], words: readonly Word[], { from, to }: Stretch): number | null {
  const said = wordsIn(words, from, to)
  const time = sides.map(({ name }) => said.reduce((sum, word) => sum + (word.speaker === name ? word.to - word.from : 0), 0))
  const speaking = time.flatMap((frames, side) => (frames > 0 ? [{ frames, side }] : []))
  return speaking.sort((a, b) => a.frames - b.frames)[0]?.side ?? null
}

/** A span of tape, and where it lies in the piece. */
type Placed = Stretch & { span: Span }

/** The spans of tape that lie in a stretch of the piece, as far as they do. */
function onTape({ spans }: Piece, { from, to }: Stretch): Placed[] {
  let at = from
  return slice(spans, from, to).flatMap((span) => {
    const start = at
    at += spanLength(span)
    return span.sound === 'tape' ? [{ span, from: start, to: at }] : []
  })
}

/** Whether a side is muted on the tape itself somewhere in a span. */
const mutedOnTape = ({ sides }: Piece, span: Span, side: number): boolean => overlapsAny(sides?.[span.tape]?.[side]?.hush ?? [], span)

/** Whether a side is muted somewhere in a span: by the span itself, else by the tape. */
const isMuted = (piece: Piece, span: Span, side: number): boolean => span.mutes?.[side] ?? mutedOnTape(piece, span, side)

/** Whether a side is muted somewhere in a stretch. */
export const sideMutedIn = (piece: Piece, stretch: Stretch, side: number): boolean =>
  onTape(piece, stretch).some(({ span }) => isMuted(piece, span, side))

const painting = (parts: PaintPart[]): ActualityStep[] => (parts.length ? [{ type: 'paint', parts }] : [])

/** What unmutes a side in a span; null where it is heard already. */
function unmuting(piece: Piece, { span, from, to }: Placed, side: number): PaintPart | null {
  const value = mutedOnTape(piece, span, side) ? false : null
  return isMuted(piece, span, side) ? { what: 'side', side, from, to, value } : null
}

/** Steps that mute one side over a stretch, or unmute it if it is muted there. No time goes, and the other sides are not touched. */
export function toggleSideMute(piece: Piece, stretch: Stretch, side: number): ActualityStep[] {
  const over = onTape(piece, stretch)
  if (sideMutedIn(piece, stretch, side)) return painting(over.flatMap((placed) => unmuting(piece, placed, side) ?? []))
  return painting(over.map(({ from, to }) => ({ what: 'side', side, from, to, value: true })))
}

/** Steps that unmute all sides over a stretch; empty if none is muted. */
export const unmuteSides = (piece: Piece, stretch: Stretch): ActualityStep[] =>
  painting(
    onTape(piece, stretch).flatMap((placed) =>
      (piece.sides?.[placed.span.tape] ?? []).flatMap((_, side) => unmuting(piece, placed, side) ?? []),
    ),
  )

/** Changes the level of one side over a stretch: `level` gives what a level in dB becomes. The other sides are not touched. */
export const levelSide = (piece: Piece, stretch: Stretch, side: number, level: (dB: number) => number): ActualityStep[] =>
  painting(
    onTape(piece, stretch).map(({ span, from, to }) => ({
      what: 'level',
      side,
      from,
      to,
      value: heldLevel(level(span.levels?.[side] ?? 0)),
    })),
  )

/** The level of each side as recorded over a stretch. */
export const sideLevelsOff = (piece: Piece, stretch: Stretch): ActualityStep[] =>
  painting(
    onTape(piece, stretch).flatMap(({ span, from, to }) =>
      (span.levels ?? []).flatMap((dB, side): PaintPart[] => (dB ? [{ what: 'level', side, from, to, value: 0 }] : [])),
    ),
  )

/** The level of one side at the middle of a stretch, in dB. */
export const levelOfSide = (piece: Piece, { from, to }: Stretch, side: number): number =>
  slice(piece.spans, Math.floor((from + to) / 2), Math.floor((from + to) / 2) + 1)[0]?.levels?.[side] ?? 0

/**
 * Moves one side of a stretch later (or earlier, where negative) against the other, so that two who
 * spoke at once are heard one after the other. What is moved should begin and end where that side is
 * silent: what it said before the stretch is not in it, and what is pushed past its end is not heard.
 * What was moved already is moved as a whole.
 */
export const slipSide = (piece: Piece, stretch: Stretch, side: number, by: Frames): ActualityStep[] =>
  painting(
    onTape(piece, overSlipped(piece.spans, stretch)).map(({ span, from, to }) => ({
      what: 'slip',
      side,
      from,
      to,
      value: clamp((span.slip?.[side] ?? 0) + by, -FURTHEST, FURTHEST),
    })),
  )

/** A stretch, widened over all slipped spans that it touches, so that no word is slipped by half. */
export function overSlipped(spans: Piece['spans'], stretch: Stretch): Stretch {
  let { from, to } = stretch
  let start = 0
  for (const span of spans) {
    const end = start + spanLength(span)
    if (span.slip && start < stretch.to && end > stretch.from) [from, to] = [Math.min(from, start), Math.max(to, end)]
    start = end
  }
  return { from, to }
}
