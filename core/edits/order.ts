import { united } from '../tape/skipping'
import type { Side } from '../tape/tape'
import type { Frames, Stretch } from '../time'
import { clipLength, type Actuality, type ActualityStep } from './actuality'
import { joinAt, normal, plainJoin, slice, type Span } from './editList'

/** The order of what is said in a piece. Positions are frames of the piece. */

const joined = (spans: Span[]): Span[] => spans.map((span, i) => (i === 0 ? { ...span, join: span.join ?? plainJoin() } : span))

/** Moves a passage to before what stands at `to`. Nothing where that is within it, or where it is. */
export function movePassage({ spans }: Pick<Actuality, 'spans'>, { from, to }: Stretch, place: Frames): ActualityStep[] {
  if (to <= from || (place >= from && place <= to)) return []
  const passage = joined(slice(spans, from, to))
  const takeOut: ActualityStep = { type: 'replace', from, to, insert: [], after: from === 0 ? null : (joinAt(spans, from) ?? plainJoin()) }
  const at = place > to ? place - (to - from) : place
  return [takeOut, { type: 'replace', from: at, to: at, insert: passage, after: joinAt(spans, place) ?? plainJoin() }]
}

/**
 * Several pieces as one, in their order: words follow on words, and the handles between them go. It
 * keeps the first one's name, and the outer ends of the first and the last. The places where they meet
 * are given too, to be placed.
 */
export function joinedPieces(pieces: readonly Actuality[]): { piece: Actuality; meet: Frames[] } {
  const [first] = pieces
  const last = pieces[pieces.length - 1]
  const meet: Frames[] = []
  let length = 0
  const spans = pieces.flatMap((piece, i) => {
    const from = i === 0 ? 0 : piece.head
    const to = clipLength(piece) - (i === pieces.length - 1 ? 0 : piece.tail)
    const louder = (piece.gain ?? 0) - (first.gain ?? 0)
    const part = slice(piece.spans, from, to).map((span) => (louder ? { ...span, level: (span.level ?? [{ at: span.from, dB: 0 }]).map(({ at, dB }) => ({ at, dB: dB + louder })) } : span))
    if (i > 0) meet.push(length)
    length += to - from
    return i === 0 ? part : joined(part)
  })
  const { versions: _, offcuts: __, fadeOut: ___, ...kept } = first
  const sides: Record<string, Side[]> = {}
  for (const piece of pieces)
    for (const [tape, own] of Object.entries(piece.sides ?? {})) {
      const there = sides[tape]
      // who is hushed in one of them is hushed in what they become
      sides[tape] = there ? there.map((side, i) => withHush(side, united([...(side.hush ?? []), ...(own[i]?.hush ?? [])]))) : own
    }
  return { piece: { ...kept, spans: normal(spans), tail: last.tail, sides, ...(last.fadeOut ? { fadeOut: last.fadeOut } : {}) }, meet }
}

const withHush = (side: Side, hush: Stretch[]): Side => (hush.length ? { ...side, hush } : side)

/** Puts sound in before what stands at a place. */
export function putIn({ spans }: Pick<Actuality, 'spans'>, passage: readonly Span[], place: Frames): ActualityStep[] {
  const after = place >= clipLength({ spans }) ? null : (joinAt(spans, place) ?? plainJoin())
  return passage.length ? [{ type: 'replace', from: place, to: place, insert: joined([...passage]), after }] : []
}

/** Where a passage goes that is moved past the phrase before it, or after it; null where none is. `words` of the piece in order, `end` where its words end. */
export function besidePhrase(words: readonly { at: Frames; end: Frames; phraseEnd: boolean }[], { from, to }: Stretch, by: 1 | -1, end: Frames): Frames | null {
  const middle = (word: { at: Frames; end: Frames }) => (word.at + word.end) / 2
  if (by > 0) {
    const first = words.findIndex((word) => middle(word) > to)
    if (first < 0) return null
    const last = words.findIndex((word, i) => i >= first && word.phraseEnd)
    return words[last + 1]?.at ?? end
  }
  const before = words.findLastIndex((word) => middle(word) < from)
  if (before < 0) return null
  let first = before
  while (first > 0 && !words[first - 1].phraseEnd) first--
  return words[first].at
}
