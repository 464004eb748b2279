import { firstWordAfter, wordsIn, type Word } from '../tape/words'
import type { Frames, Stretch } from '../time'
import type { Actuality } from './actuality'
import { edits, isRoom, spanLength, stands, standsFor, underneath, type Span } from './editList'
import { allOf, nicks, type Nick } from './gone'
import { isSideMuted, pieceWords, type PieceWord, type WordsOf } from './pieceWords'
import { knowsLanguage, sentenceAround, warningsOf, type Warning } from './warnings'
import type { TapeStretch } from '../stretches'

/**
 * What an edit did to what was said, read from the document itself: nothing in it is a verdict.
 * Places are stretches of a tape, so that each can be heard as it was.
 */
export type RecordPart =
  | {
      kind: 'said'
      text: string
      speaker: string
      place: TapeStretch
      level: number | null
      /** Below how many hertz it is cut; null where it is not. */
      lowCut: number | null
      /** What a muted side says under it. */ muted: string
      slips: Slip[]
    }
  /** Gone: taken out and closed up, held by room tone, muted, or cut off an end of the piece. */
  | {
      kind: 'out'
      text: string
      place: TapeStretch
      how: Nick['how'] | 'muted'
      warnings: Warning[]
      off: boolean
      /** The nick by which it is brought back; absent for a mute. */ nick: Nick | null
    }
  /**
   * Sound of another place laid over what was said at `place`, or in time that was held or added. `text`: what it says
   * there; `replaced`: what is no longer heard for it.
   */
  | { kind: 'patched'; text: string; replaced: string; place: TapeStretch; laid: TapeStretch; filled: boolean }
  /** What follows was moved here: it comes from earlier on the tape, or from another tape. */
  | { kind: 'moved'; place: TapeStretch; otherTape: boolean }
  /** Room tone that was put in, so many frames of it: a pause that was made longer. */
  | { kind: 'added'; place: TapeStretch; room: Frames }

/** A side that is heard later than it was said, or earlier. */
export interface Slip {
  side: string
  by: Frames
}

export interface FairRecord {
  parts: RecordPart[]
  /** From the first word to the last, in frames: as it was said, where that is on one tape, and as it is. */
  onTape: Frames | null
  inPiece: Frames
  /** Joins that nobody has played, of all. */
  unheard: number
  joins: number
  slips: (Slip & { tape: string })[]
  /** Stretches beside the piece's words that were said off the record. */
  off: number
  /** Tapes whose language has no list of words to warn of. */
  unwarned: string[]
}

/** What must be known of the tapes: their words, what was said off the record, and their language. */
export interface RecordSources {
  wordsOf: WordsOf
  offOf: (tape: string) => readonly Stretch[]
  languageOf?: (tape: string) => string
}

/** Changes of level from here on are noted, in dB. */
const LOUD_CHANGE = 6

const textOf = (words: readonly Word[]): string => words.map((word) => word.text).join(' ')
const keyOf = ({ tape, from, speaker = '' }: { tape: string; from: Frames; speaker?: string }): string => `${tape}/${from}/${speaker}`
const placeOf = ({ tape, from, to }: TapeStretch): TapeStretch => ({ tape, from, to })

/** Where a word is told that is not heard: of all places that it lies in, the one that holds most of it. */
function tellWords(places: readonly (readonly TapeStretch[])[], wordsOf: WordsOf, heard: ReadonlySet<string>): Word[][] {
  const most = new Map<string, { index: number; held: Frames }>()
  const told = new Map<string, Word>()
  const all = places.flatMap((parts, index) => parts.map((part) => ({ ...part, index })))
  for (const { index, tape, from, to } of all) {
    const words = wordsOf(tape)
    for (let i = firstWordAfter(words, from); i < words.length && words[i].from < to; i++) {
      const key = keyOf({ ...words[i], tape })
      if (heard.has(key)) continue
      const held = Math.min(to, words[i].to) - Math.max(from, words[i].from)
      if (held > (most.get(key)?.held ?? 0)) most.set(key, { index, held })
      told.set(key, words[i])
    }
  }
  const found: Word[][] = places.map(() => [])
  for (const [key, { index }] of most) found[index].push(told.get(key)!)
  return found.map((words) => words.sort((a, b) => a.from - b.from))
}

/** None of the words that were said off the record are told. */
export function fairRecord(
  piece: Pick<Actuality, 'spans' | 'sides' | 'gain' | 'cutHead' | 'cutTail'>,
  { wordsOf, offOf, languageOf = () => 'en' }: RecordSources,
): FairRecord {
  const words = pieceWords(piece.spans, wordsOf, piece.sides)
  const heard = new Set(words.map(keyOf))
  const gone = nicks(piece)
  const muted = mutedPlaces(piece.spans)
  const replaced = piece.spans.map((span) => (span.patch?.own && stands(span) ? allOf(underneath(span) ?? [laidBare(span)]) : null))
  const places = [
    ...gone.map(({ parts }) => parts),
    ...muted.map(({ place }) => [place]),
    ...replaced.flatMap((parts) => (parts ? [parts] : [])),
  ]
  const told = tellWords(places, wordsOf, heard)
  const isOff = (parts: readonly TapeStretch[]) =>
    parts.some((place) => offOf(place.tape).some((stretch) => stretch.from < place.to && stretch.to > place.from))

  /** The kept words of a tape before and after a place of the piece. */
  const around = (at: Frames): { before: PieceWord[]; after: PieceWord[] } => {
    const next = words.findIndex((word) => word.at >= at - 1)
    return next < 0 ? { before: words, after: [] } : { before: words.slice(0, next), after: words.slice(next) }
  }
  const out = (index: number, at: Frames, until: Frames, how: Nick['how'] | 'muted', nick: Nick | null, place: TapeStretch): RecordPart => {
    const off = isOff(places[index])
    const went = off ? [] : told[index]
    const [{ before }, { after }] = [around(at), around(until)]
    const warnings = warningsOf(
      went,
      sentenceAround(before, after),
      { before: before[before.length - 1], after: after[0] },
      languageOf(place.tape),
    )
    return { kind: 'out', text: textOf(went), place: placeOf(place), how, warnings, off, nick }
  }

  const parts: RecordPart[] = []
  const goneBefore = (at: Frames, how: readonly Nick['how'][]) =>
    gone.forEach(
      (nick, i) => nick.at === at && how.includes(nick.how) && parts.push(out(i, nick.at, nick.at + nick.held, nick.how, nick, nick)),
    )
  const saidFrom = new Map(edits(piece.spans).map((edit) => [edit.index, edit]))
  goneBefore(0, ['head'])
  let start = 0
  piece.spans.forEach((span, i) => {
    const end = start + spanLength(span)
    const edit = saidFrom.get(i)
    if (edit) {
      goneBefore(edit.at, ['closed'])
      const [last, here] = [standsFor(edit.left), standsFor(span)]
      if (last.tape !== here.tape || here.from < last.to)
        parts.push({ kind: 'moved', place: placeOf(here), otherTape: last.tape !== here.tape })
    }
    if (span.sound === 'room') parts.push({ kind: 'added', place: placeOf(span), room: spanLength(span) })
    else if (span.sound === 'tone') goneBefore(start, ['held'])
    else if (span.mute) parts.push(out(gone.length + muted.findIndex((one) => one.index === i), start, end, 'muted', null, standsFor(span)))
    else tellSaid(said(span, i, start, end))
    start = end
  })
  goneBefore(start, ['tail'])

  /** What runs on from the part before it is one with it: only what a side says under it changed. */
  function tellSaid(part: RecordPart): void {
    const last = parts[parts.length - 1]
    const one = last?.kind === 'said' && part.kind === 'said' && last.place.tape === part.place.tape && last.place.to === part.place.from
    if (!one || last.level !== part.level || last.lowCut !== part.lowCut || JSON.stringify(last.slips) !== JSON.stringify(part.slips))
      return void parts.push(part)
    const both = (...texts: string[]) => texts.filter(Boolean).join(' ')
    parts[parts.length - 1] = {
      ...last,
      text: both(last.text, part.text),
      muted: both(last.muted, part.muted),
      speaker: last.speaker || part.speaker,
      place: { ...last.place, to: part.place.to },
    }
  }

  function said(span: Span, index: number, from: Frames, to: Frames): RecordPart {
    const inside = words.filter(({ at, end }) => at + end >= 2 * from && at + end < 2 * to)
    if (span.patch) {
      const at = replaced[index] ? gone.length + muted.length + replaced.slice(0, index).filter(Boolean).length : -1
      return {
        kind: 'patched',
        text: textOf(inside),
        replaced: at < 0 ? '' : textOf(told[at]),
        place: placeOf(standsFor(span)),
        laid: placeOf(span),
        filled: span.patch.held === true,
      }
    }
    const ofSide = (span.levels ?? []).reduce((most, dB) => (Math.abs(dB) > Math.abs(most) ? dB : most), 0)
    const gain = (piece.gain ?? 0) + (span.gain ?? 0) + ofSide
    const change = (span.level ?? []).reduce((most, { dB }) => (Math.abs(dB + gain) > Math.abs(most) ? dB + gain : most), gain)
    const sides = piece.sides?.[span.tape] ?? []
    return {
      kind: 'said',
      text: textOf(inside),
      speaker: inside[0]?.speaker ?? '',
      place: placeOf(span),
      level: Math.abs(change) > LOUD_CHANGE ? change : null,
      lowCut: span.lowCut ?? null,
      muted: textOf(
        wordsIn(wordsOf(span.tape), span.from, span.to).filter(
          (word) => isSideMuted(word, sides, span) && !heard.has(keyOf({ ...word, tape: span.tape })),
        ),
      ),
      slips: (span.slip ?? []).flatMap((by, side) => (by ? [{ side: sides[side]?.name ?? '', by }] : [])),
    }
  }

  const [first, final] = [words[0], words[words.length - 1]]
  const tapes = new Set(piece.spans.filter((span) => !isRoom(span)).map((span) => standsFor(span).tape))
  const all = edits(piece.spans)
  const length = piece.spans.reduce((sum, span) => sum + spanLength(span), 0)
  return {
    parts,
    onTape: first && tapes.size === 1 ? Math.max(...words.map((word) => word.to)) - Math.min(...words.map((word) => word.from)) : null,
    inPiece: first ? Math.max(0, final.end - first.at) : length,
    unheard: all.filter(({ played }) => !played).length,
    joins: all.length,
    slips: Object.entries(piece.sides ?? {}).flatMap(([tape, sides]) =>
      sides.flatMap(({ name, slip }) => (slip ? [{ tape, side: name, by: slip }] : [])),
    ),
    off: parts.filter((part) => part.kind === 'out' && part.off).length,
    unwarned: [
      ...new Set(
        parts.flatMap((part) => (part.kind === 'out' && part.text && !knowsLanguage(languageOf(part.place.tape)) ? [part.place.tape] : [])),
      ),
    ],
  }
}

/** What a patch stands for, as a span without it. */
const laidBare = (span: Span): Span => ({ ...placeOf(standsFor(span)), sound: 'tape' })

/** The muted spans of a piece, and what of their tapes they stand for. */
const mutedPlaces = (spans: readonly Span[]): { index: number; place: TapeStretch }[] =>
  spans.flatMap((span, index) => (span.mute && span.sound === 'tape' ? [{ index, place: placeOf(standsFor(span)) }] : []))
