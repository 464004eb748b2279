import { applyAll } from '../steps/document'
import { firstWordAfter, type Word } from '../tape/words'
import { clamp, toFrames, type Frames, type Stretch } from '../time'
import { actualityType, clipLength, type Actuality, type ActualityStep } from './actuality'
import { takeOut } from './acts'
import { bringBack } from './bringBack'
import { withoutJoin, type Span } from './editList'
import { nicks } from './gone'
import { changeHandle, endSpan, handlesByWords } from './handles'
import { pieceWords, type WordsOf } from './pieceWords'
import { overlapsAny } from '../stretches'

/** The ends of a piece, taken further in or out again into its tape, word by word. */

export type End = 'head' | 'tail'

/** What lies beyond an end on its tape. */
export interface Beyond {
  /** So many frames hold no word and nothing that is barred. */
  free: (piece: Actuality) => Frames
  /** What of a tape may not come in, in frames of it: what was said off the record. */
  barred: (tape: string) => readonly Stretch[]
}

/** What of tapes tells how far an end can go out: how long they are, what is said on them, what is off the record. */
export interface TapesBeyond {
  factsOf: (tape: string) => { frames: Frames }
  wordsOf: WordsOf
  offOf: (tape: string) => readonly Stretch[]
}

export const beyondEnd = (end: End, { factsOf, wordsOf, offOf }: TapesBeyond): Beyond => ({
  free: (piece) => {
    const { tape } = endSpan(piece, end)
    return freeBeyond(piece, end, wordsOf(tape), offOf(tape), factsOf(tape).frames)
  },
  barred: offOf,
})

/** The handle that an end has wherever it is put. */
const HANDLE: Frames = toFrames(0.3)

/** How many frames of tape lie beyond an end without a word in them, and without anything struck or off the record. */
export function freeBeyond(
  piece: Pick<Actuality, 'spans'>,
  end: End,
  words: readonly Word[],
  barred: readonly Stretch[],
  tapeLength: Frames,
): Frames {
  const span = endSpan(piece, end)
  if (span.sound !== 'tape' || span.patch) return 0
  if (end === 'head') {
    const before = words.filter((word) => word.from < span.from).map(({ to }) => to)
    return Math.max(0, span.from - Math.max(0, ...before, ...barred.filter(({ from }) => from < span.from).map(({ to }) => to)))
  }
  const next = words[firstWordAfter(words, span.to)]?.from ?? tapeLength
  return Math.max(0, Math.min(tapeLength, next, ...barred.filter(({ to }) => to > span.to).map(({ from }) => from)) - span.to)
}

/** The steps by which the handles are what lies beside the words, and the one at an end is as long as usual. */
function withHandle(piece: Actuality, end: End, { free }: Beyond, wordsOf: WordsOf): ActualityStep[] {
  const first = handlesByWords(piece, pieceWords(piece.spans, wordsOf, piece.sides))
  const now = applyAll(actualityType, piece, first)
  return [...first, ...changeHandle(now, end, HANDLE - now[end], free(now))]
}

/** Takes an end further in by a word. Empty where one word is left. */
export function endIn(piece: Actuality, end: End, wordsOf: WordsOf, beyond: Beyond): ActualityStep[] {
  const said = pieceWords(piece.spans, wordsOf, piece.sides)
  if (said.length < 2) return []
  const length = clipLength(piece)
  const [goes, stays] = end === 'head' ? [said[0], said[1]] : [said[said.length - 1], said[said.length - 2]]
  const cut =
    end === 'head'
      ? { from: 0, to: clamp(Math.max(goes.end, stays.at - HANDLE), 1, stays.at) }
      : { from: clamp(Math.min(goes.at, stays.end + HANDLE), stays.end, length - 1), to: length }
  const steps = takeOut(piece, cut)
  return [...steps, ...withHandle(applyAll(actualityType, piece, steps), end, beyond, wordsOf)]
}

/**
 * Takes an end out again by a word: what was cut off there comes back as it was, else the tape beyond. Empty where the
 * tape has no more words, or they were said off the record.
 */
export function endOut(piece: Actuality, end: End, wordsOf: WordsOf, beyond: Beyond): ActualityStep[] {
  const trimmed = changeHandle(piece, end, -roomAtEnd(piece, end), 0)
  const bare = applyAll(actualityType, piece, trimmed)
  const span = endSpan(bare, end)
  const words = wordsOf(span.tape)
  const middle = (word: Word) => (word.from + word.to) / 2
  const word = end === 'head' ? words.filter((one) => middle(one) < span.from).at(-1) : words.find((one) => middle(one) > span.to)
  if (!word || span.sound !== 'tape' || span.patch) return []
  const part = end === 'head' ? { from: word.from, to: span.from } : { from: span.to, to: word.to }
  if (overlapsAny(beyond.barred(span.tape), part)) return []
  const steps = [...trimmed, ...comesBack(bare, end, span, part)]
  return [...steps, ...withHandle(applyAll(actualityType, piece, steps), end, beyond, wordsOf)]
}

/**
 * Takes an end to a place of the piece, as near as words allow: within it, or out into the tape where it lies before
 * the start or past the end. Where nothing is said it goes to the very place. Empty where that changes nothing.
 */
export function endAt(piece: Actuality, end: End, place: Frames, wordsOf: WordsOf, beyond: Beyond): ActualityStep[] {
  const length = clipLength(piece)
  const outBy = end === 'head' ? -place : place - length
  const said = pieceWords(piece.spans, wordsOf, piece.sides)
  if (outBy > 0)
    return said.length ? wordsOut(piece, end, outBy, wordsOf, beyond) : wordlessOut(piece, end, Math.min(outBy, beyond.free(piece)))
  if (!said.length)
    return takeOut(piece, end === 'head' ? { from: 0, to: Math.min(place, length - 1) } : { from: Math.max(1, place), to: length })
  const edges = end === 'head' ? said.map(({ at }) => at) : said.map((word) => word.end)
  const nearest = edges.reduce((best, edge, i) => (Math.abs(edge - place) < Math.abs(edges[best] - place) ? i : best), 0)
  const count = end === 'head' ? nearest : said.length - 1 - nearest
  return repeated(piece, (now, i) => (i < count ? endIn(now, end, wordsOf, beyond) : []))
}

/** Steps made one after the other, each on what the ones before made of the piece, until there are no more. */
function repeated(piece: Actuality, more: (now: Actuality, turn: number) => ActualityStep[]): ActualityStep[] {
  const all: ActualityStep[] = []
  let now = piece
  for (let turn = 0; ; turn++) {
    const steps = more(now, turn)
    if (!steps.length) return all
    all.push(...steps)
    now = applyAll(actualityType, now, steps)
  }
}

/** Takes an end out by as many words as come nearest to a length of tape. */
const wordsOut = (piece: Actuality, end: End, by: Frames, wordsOf: WordsOf, beyond: Beyond): ActualityStep[] =>
  repeated(piece, (now) => {
    const short = by - (clipLength(now) - clipLength(piece))
    const steps = short > 0 ? endOut(now, end, wordsOf, beyond) : []
    const grown = steps.length ? clipLength(applyAll(actualityType, now, steps)) - clipLength(now) : 0
    return grown < 2 * short ? steps : []
  })

function wordlessOut(piece: Actuality, end: End, by: Frames): ActualityStep[] {
  const span = endSpan(piece, end)
  return by > 0 && span.sound === 'tape'
    ? comesBack(piece, end, span, end === 'head' ? { from: span.from - by, to: span.from } : { from: span.to, to: span.to + by })
    : []
}

/** How much added room stands at an end. */
const roomAtEnd = ({ spans }: Actuality, end: End): Frames => {
  const outer = end === 'head' ? spans[0] : spans[spans.length - 1]
  return outer.sound === 'room' ? outer.to - outer.from : 0
}

function comesBack(piece: Actuality, end: End, span: Span, part: Stretch): ActualityStep[] {
  const remembered = nicks(piece).find(
    (nick) => nick.how === end && nick.tape === span.tape && nick.from <= part.from && nick.to >= part.to,
  )
  if (remembered) return bringBack(piece, remembered, part)
  const place = end === 'head' ? 0 : clipLength(piece)
  const { level: _, mute: __, ...look } = withoutJoin(span)
  return [{ type: 'replace', from: place, to: place, insert: [{ ...look, ...part }], after: null }]
}
