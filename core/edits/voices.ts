import { united } from '../tape/skipping'
import { meets, without, type Side } from '../tape/tape'
import { wordsIn, type Word } from '../tape/words'
import { milliseconds, type Frames, type Stretch } from '../time'
import type { Actuality, ActualityStep } from './actuality'
import { joinAt, listLength, slice, spanLength, withoutJoin, type Join, type Span } from './editList'

/**
 * Two voices, each on a side of its own: what one of them says can be hushed where it is, or moved
 * apart from the other. A cut always goes through both. Places are frames of the piece.
 */

type Piece = Pick<Actuality, 'spans' | 'sides'>

/** A join at which nothing but a side is moved: what stays as it is runs on through it unchanged. */
const SLIPPED: Join = { fade: milliseconds(20), shape: 'gain', origin: 'hand', heard: false }
/** No side is moved further than this. */
const FURTHEST: Frames = milliseconds(10_000)

/** The side that says less of a stretch of tape, and something; of none that speaks, null. */
export function lesserSide(sides: readonly Side[], words: readonly Word[], { from, to }: Stretch): number | null {
  const said = wordsIn(words, from, to)
  const time = sides.map(({ name }) => said.reduce((sum, word) => sum + (word.speaker === name ? word.to - word.from : 0), 0))
  const speaking = time.flatMap((frames, side) => (frames > 0 ? [{ frames, side }] : []))
  return speaking.sort((a, b) => a.frames - b.frames)[0]?.side ?? null
}

/** The stretches of tape that lie in a stretch of the piece. */
const onTape = ({ spans }: Piece, { from, to }: Stretch): Span[] => slice(spans, from, to).filter(({ sound }) => sound === 'tape')

/** Whether a side is hushed somewhere in a stretch. */
export const hushedIn = (piece: Piece, stretch: Stretch, side: number): boolean => onTape(piece, stretch).some((span) => meets(piece.sides?.[span.tape]?.[side]?.hush ?? [], span))

/** Has one side give way to its room over a stretch, or heard there again: no time goes, and the other side is not touched. */
export const toggleHush = (piece: Piece, stretch: Stretch, side: number): ActualityStep[] => hushOver(piece, stretch, side, !hushedIn(piece, stretch, side))

/** Nobody is hushed over a stretch any more; nothing where nobody is. */
export const hushesOff = (piece: Piece, stretch: Stretch): ActualityStep[] =>
  Object.values(piece.sides ?? {}).some((sides) => sides.some((_, side) => hushedIn(piece, stretch, side))) ? hushOver(piece, stretch, 'all', false) : []

function hushOver(piece: Piece, stretch: Stretch, which: number | 'all', quiet: boolean): ActualityStep[] {
  const over = onTape(piece, stretch)
  const sides = Object.fromEntries(
    Object.entries(piece.sides ?? {}).map(([tape, all]): [string, Side[]] => {
      const here = over.filter((span) => span.tape === tape)
      if (!here.length) return [tape, all]
      const changed = ({ hush = [], ...side }: Side): Side => {
        const next = quiet ? united([...hush, ...here.map(({ from, to }) => ({ from, to }))]) : hush.flatMap((one) => without(one, here))
        return next.length ? { ...side, hush: next } : side
      }
      return [tape, all.map((side, i) => (which === 'all' || which === i ? changed(side) : side))]
    }),
  )
  return over.length ? [{ type: 'set', key: 'sides', value: sides }] : []
}

/**
 * Moves one side of a stretch later (or earlier, where negative) against the other, so that two who
 * spoke at once are heard one after the other. What is moved should begin and end where that side is
 * silent: what it said before the stretch is not in it, and what is pushed past its end is not heard.
 * What was moved already is moved as a whole.
 */
export function slipSide({ spans }: Piece, stretch: Stretch, side: number, by: Frames): ActualityStep[] {
  const { from, to } = overSlipped(spans, stretch)
  const part = slice(spans, from, to)
  if (!part.some(({ sound }) => sound === 'tape')) return []
  const insert = part.map((span, i): Span => {
    const slip = Array.from({ length: Math.max(side + 1, span.slip?.length ?? 0) }, (_, at) => Math.max(-FURTHEST, Math.min(FURTHEST, (span.slip?.[at] ?? 0) + (at === side ? by : 0))))
    const { slip: _, ...rest } = span
    const join = i > 0 ? span.join : ours(spans, from)
    return { ...rest, ...(slip.some((frames) => frames) ? { slip } : {}), ...(join ? { join } : {}) }
  })
  return [{ type: 'replace', from, to, insert: insert.map((span, i) => (i === 0 && from === 0 ? withoutJoin(span) : span)), after: to >= listLength(spans) ? null : ours(spans, to) }]
}

/** A stretch, and with it all of what it touches that is moved: half of a word moved is none. */
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

/** The join at a place; where the tape runs on, one that is not heard. */
const ours = (spans: Piece['spans'], at: Frames): Join => joinAt(spans, at) ?? SLIPPED
