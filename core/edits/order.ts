import type { Side } from '../tape/tape'
import type { Frames, Stretch } from '../time'
import { clipLength, type Actuality, type ActualityStep, type Kept } from './actuality'
import { joinAt, normal, plainJoin, runsOn, slice, stands, type EditList, type Join, type Span, type Taken } from './editList'
import { without } from '../stretches'

/** The order of what is said in a piece. Positions are frames of the piece. */

const joined = (spans: Span[]): Span[] => spans.map((span, i) => (i === 0 ? { ...span, join: span.join ?? plainJoin() } : span))

const bare = (join: Join | null): Join | null => {
  if (!join) return null
  const { took: _, ...rest } = join
  return rest
}

/** What the one join remembers that two joins become. */
function bothTook(first: Join | null, second: Join | null): { took?: Taken } {
  const spans = [...(first?.took?.spans ?? []), ...(second?.took?.spans ?? [])]
  return spans.length ? { took: { spans: normal(spans), after: second?.took?.after ?? null } } : {}
}

/** Steps that move a passage to before what stands at `to`. Empty if `to` is within the passage or at its end. */
export function movePassage({ spans }: Pick<Actuality, 'spans'>, { from, to }: Stretch, place: Frames): ActualityStep[] {
  if (to <= from || (place >= from && place <= to)) return []
  const end = clipLength({ spans })
  const [left, right] = [slice(spans, from - 1, from)[0], slice(spans, to, to + 1)[0]]
  const [before, after] = [joinAt(spans, from), joinAt(spans, to)]
  const closes = left && right && !runsOn(left, right)
  const closing = closes ? { ...plainJoin(), ...bare(before ?? after), heard: false, ...bothTook(before, after) } : null
  return [
    {
      type: 'move',
      from,
      to,
      at: place,
      closing,
      first: place === 0 ? null : { ...plainJoin(), ...bare(before), heard: false },
      after: place === end ? null : { ...(joinAt(spans, place) ?? plainJoin()), heard: false },
    },
  ]
}

/** Spans with the mutes of one setting of their sides painted on, where another setting holds: so both say the same. */
function withOwnMutes(spans: EditList, own: Readonly<Record<string, Side[]>>, held: Readonly<Record<string, Side[]>>): Span[] {
  return spans.flatMap((span) => {
    const [mine, theirs] = [own[span.tape], held[span.tape]]
    if (!stands(span) || !mine || !theirs || mine === theirs) return [span]
    let parts: Span[] = [span]
    mine.forEach((side, i) => {
      const [here, there] = [side.hush ?? [], theirs[i]?.hush ?? []]
      const differ = [
        ...here.flatMap((one) => without(one, there)).map((one) => ({ ...one, value: true })),
        ...there.flatMap((one) => without(one, here)).map((one) => ({ ...one, value: false })),
      ]
      for (const { from, to, value } of differ)
        parts = parts.flatMap((part) => {
          const over = { from: Math.max(part.from, from), to: Math.min(part.to, to) }
          if (over.to <= over.from || part.patch || (part.mutes?.[i] ?? null) !== null) return [part]
          const mutes = Array.from({ length: Math.max(i + 1, part.mutes?.length ?? 0) }, (_, at) =>
            at === i ? value : (part.mutes?.[at] ?? null),
          )
          const { join, ...rest } = part
          const pieces = [
            { ...rest, to: over.from },
            { ...rest, ...over, mutes },
            { ...rest, from: over.to },
          ].filter((one) => one.to > one.from)
          return pieces.map((one, at) => (at === 0 && join ? { ...one, join } : one))
        })
    })
    return parts
  })
}

/** Spans heard louder by some dB, room tone too. */
const louder = (spans: EditList, dB: number): Span[] => (dB ? spans.map((span) => ({ ...span, gain: (span.gain ?? 0) + dB })) : [...spans])

/**
 * Several pieces as one, in their order: words follow on words, and the handles between them go. It
 * keeps the first one's name, and the outer ends of the first and the last; levels, mutes, offcuts,
 * versions and suggestions of all of them come along. The places where they meet are given too, to be placed.
 */
export function appended(pieces: readonly Actuality[]): { piece: Actuality; meet: Frames[] } {
  const [first] = pieces
  const last = pieces[pieces.length - 1]
  const sides: Record<string, Side[]> = {}
  for (const piece of pieces) for (const [tape, own] of Object.entries(piece.sides ?? {})) sides[tape] ??= own
  const as = (piece: Actuality, spans: EditList): Span[] =>
    louder(withOwnMutes(spans, piece.sides ?? {}, sides), (piece.gain ?? 0) - (first.gain ?? 0))
  const meet: Frames[] = []
  let length = 0
  const spans = pieces.flatMap((piece, i) => {
    const from = i === 0 ? 0 : piece.head
    const to = clipLength(piece) - (i === pieces.length - 1 ? 0 : piece.tail)
    const part = as(piece, slice(piece.spans, from, to))
    if (i > 0) meet.push(length)
    length += to - from
    return i === 0 ? part : joined(part)
  })
  const kept = pieces.flatMap((piece) =>
    Object.values(piece.kept ?? {}).map((one): Kept => {
      if (one.kind === 'offcut') return { ...one, spans: as(piece, one.spans) }
      return piece === first || one.kind !== 'version' ? one : { ...one, name: `${piece.slug}: ${one.name}` }
    }),
  )
  const { kept: _, fadeOut: __, cutTail: ___, ...own } = first
  const piece: Actuality = {
    ...own,
    spans: normal(spans),
    tail: last.tail,
    sides,
    ...(last.fadeOut ? { fadeOut: last.fadeOut } : {}),
    ...(last.cutTail ? { cutTail: { ...last.cutTail, spans: as(last, last.cutTail.spans) } } : {}),
    ...(kept.length ? { kept: Object.fromEntries(kept.map((one) => [one.id, one])) } : {}),
  }
  return { piece, meet }
}

/** Puts sound in before what stands at a place. */
export function putIn({ spans }: Pick<Actuality, 'spans'>, passage: readonly Span[], place: Frames): ActualityStep[] {
  const after = place >= clipLength({ spans }) ? null : (joinAt(spans, place) ?? plainJoin())
  return passage.length ? [{ type: 'replace', from: place, to: place, insert: joined([...passage]), after }] : []
}

/**
 * Where a passage goes that is moved past the phrase before it, or after it; null where none is. `words` of the piece in
 * order, `end` where its words end.
 */
export function besidePhrase(
  words: readonly { at: Frames; end: Frames; phraseEnd: boolean }[],
  { from, to }: Stretch,
  by: 1 | -1,
  end: Frames,
): Frames | null {
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
