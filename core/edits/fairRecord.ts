import { firstWordAfter, type Word } from '../tape/words'
import type { Frames, Stretch } from '../time'
import type { Actuality } from './actuality'
import { isRoom, saidBy, spanLength, standsFor, type Span } from './editList'
import { isHushed, type WordsOf } from './pieceWords'

/**
 * What an edit did to what was said, read from the document itself: nothing in it is a verdict.
 * Places are stretches of a tape, so that each can be heard as it was.
 */
export type RecordPart =
  | { kind: 'said'; text: string; speaker: string; place: Place; level: number | null; /** What another side says under it, and is not heard. */ hushed: string; slips: Slip[] }
  /** Taken out, and whether room tone stands for it. */
  | { kind: 'out'; text: string; place: Place; how: 'closed up' | 'held' | 'muted'; warnings: Warning[]; off: boolean }
  /** Sound of another place laid over what was said at `place`, or in the time that was held there. `text`: what it says there. */
  | { kind: 'patched'; text: string; place: Place; laid: Place; filled: boolean }
  /** What follows comes from before what stands here, or from another tape. */
  | { kind: 'moved'; place: Place; otherTape: boolean }

export interface Place extends Stretch {
  tape: string
}

/** A side that is heard later than it was said, or earlier. */
export interface Slip {
  side: string
  by: Frames
}

export type Warning = 'negation' | 'condition' | 'number' | 'question' | 'attribution' | 'answers joined'

export interface FairRecord {
  parts: RecordPart[]
  /** From the first word to the last, in frames: as it was said, where that is on one tape, and as it is. */
  onTape: Frames | null
  inPiece: Frames
  unheard: number
  joins: number
  slips: (Slip & { tape: string })[]
  /** Stretches beside the piece's words that were said off the record. */
  off: number
}

/** Changes of level from here on are noted, in dB. */
const LOUD_CHANGE = 6

const SIGNS: [Warning, RegExp][] = [
  ['negation', /\b(no|not|never|nobody|none|nothing|neither|nor|nowhere|without|hardly|cannot|\w+n['’]t)\b/i],
  ['condition', /\b(if|unless|except|provided|until|although|though|however|only|might|perhaps|maybe|probably|would|could)\b/i],
  ['number', /\d|\b(one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|\w+teen|twenty|thirty|forty|fifty|sixty|seventy|eighty|ninety|hundred|thousand|million|billion|half|third|quarter|percent|per cent|dozen)\b/i],
  ['question', /\?/],
  ['attribution', /\b(say|says|said|told|tell|tells|according|claims?|claimed|thinks?|believes?|reckons?|heard|asked|wrote|apparently|allegedly|reportedly)\b/i],
]

/** What a cut may have changed of the meaning, by what went. `kept`: who speaks on both sides. */
export function warningsOf(gone: readonly Word[], kept: { before?: Word; after?: Word }): Warning[] {
  const text = gone.map((word) => word.text).join(' ')
  const found = SIGNS.filter(([, sign]) => sign.test(text)).map(([warning]) => warning)
  const { before, after } = kept
  const between = gone.some((word) => word.speaker && before?.speaker && word.speaker !== before.speaker)
  if (between && before?.speaker === after?.speaker) found.push('answers joined')
  return found
}

/** Words by their middles, so that each is told once, also where a cut or a patch lies in it. */
function wordsWithin(words: readonly Word[], from: Frames, to: Frames): Word[] {
  const found: Word[] = []
  for (let i = firstWordAfter(words, from); i < words.length && words[i].from < to; i++) {
    const middle = (words[i].from + words[i].to) / 2
    if (middle >= from && middle < to) found.push(words[i])
  }
  return found
}

const textOf = (words: readonly Word[]): string => words.map((word) => word.text).join(' ')

/** `offOf`: what was said off the record of a tape; none of its words are told. */
export function fairRecord(piece: Pick<Actuality, 'spans' | 'sides' | 'gain'>, wordsOf: WordsOf, offOf: (tape: string) => readonly Stretch[]): FairRecord {
  const parts: RecordPart[] = []
  const kept = piece.spans.filter((span) => !isRoom(span))
  const keptWords = kept.map((span) => {
    const said = saidBy(span)
    return wordsWithin(wordsOf(said.tape), said.from, said.to).filter((word) => !isHushed(word, piece.sides?.[said.tape]))
  })
  let off = 0
  const out = (tape: string, from: Frames, to: Frames, how: 'closed up' | 'held' | 'muted', before?: Word, after?: Word) => {
    const isOff = offOf(tape).some((stretch) => stretch.from < to && stretch.to > from)
    if (isOff) off++
    const words = isOff ? [] : wordsWithin(wordsOf(tape), from, to).filter((word) => word !== before && word !== after)
    parts.push({ kind: 'out', text: textOf(words), place: { tape, from, to }, how, warnings: warningsOf(words, { before, after }), off: isOff })
  }
  const beside = (index: number, way: 1 | -1): Word | undefined => {
    for (let i = index + way; i >= 0 && i < piece.spans.length; i += way) {
      const words = keptWords[kept.indexOf(piece.spans[i])]
      if (words?.length) return way < 0 ? words[words.length - 1] : words[0]
    }
    return undefined
  }
  piece.spans.forEach((span, i) => {
    const stands = standsFor(span)
    if (i > 0) {
      const last = standsFor(piece.spans[i - 1])
      if (last.tape !== stands.tape) parts.push({ kind: 'moved', place: placeOf(stands), otherTape: true })
      else if (stands.from < last.to) parts.push({ kind: 'moved', place: placeOf(stands), otherTape: false })
      else if (stands.from > last.to) out(stands.tape, last.to, stands.from, 'closed up', beside(i, -1), beside(i - 1, 1))
    }
    if (isRoom(span)) return out(span.tape, span.from, span.to, span.mute ? 'muted' : 'held', beside(i, -1), beside(i, 1))
    const words = keptWords[kept.indexOf(span)]
    if (span.patch) return void parts.push({ kind: 'patched', text: textOf(words), place: placeOf(stands), laid: placeOf(span), filled: span.patch.held === true })
    const gain = piece.gain ?? 0
    const change = (span.level ?? []).reduce((most, { dB }) => (Math.abs(dB + gain) > Math.abs(most) ? dB + gain : most), gain)
    parts.push({ kind: 'said', text: textOf(words), speaker: words[0]?.speaker ?? '', place: placeOf(span), level: Math.abs(change) > LOUD_CHANGE ? change : null, ...sidesApart(span) })
  })
  function sidesApart(span: Span): { hushed: string; slips: Slip[] } {
    const sides = piece.sides?.[span.tape] ?? []
    return {
      hushed: textOf(wordsWithin(wordsOf(span.tape), span.from, span.to).filter((word) => isHushed(word, sides))),
      slips: (span.slip ?? []).flatMap((by, side) => (by ? [{ side: sides[side]?.name ?? '', by }] : [])),
    }
  }
  const all = keptWords.flat()
  const [first, final] = [all[0], all[all.length - 1]]
  const oneTape = new Set(kept.map((span) => saidBy(span).tape)).size === 1
  const joins = piece.spans.flatMap(({ join }) => (join ? [join] : []))
  return {
    parts,
    onTape: first && oneTape ? Math.max(...all.map((word) => word.to)) - Math.min(...all.map((word) => word.from)) : null,
    inPiece: first && final ? spoken(piece.spans, first, final) : piece.spans.reduce((sum, span) => sum + spanLength(span), 0),
    unheard: joins.filter((join) => !join.heard).length,
    joins: joins.length,
    slips: Object.entries(piece.sides ?? {}).flatMap(([tape, sides]) => sides.flatMap(({ name, slip }) => (slip ? [{ tape, side: name, by: slip }] : []))),
    off,
  }
}

const placeOf = ({ tape, from, to }: Place): Place => ({ tape, from, to })

/** From the first word that is heard to the end of the last. */
function spoken(spans: readonly Span[], first: Word, last: Word): Frames {
  let start = 0
  let [from, to] = [0, 0]
  spans.forEach((span, i) => {
    if (i === 0) from = Math.max(0, first.from - saidBy(span).from)
    if (i === spans.length - 1) to = start + Math.min(spanLength(span), Math.max(0, last.to - saidBy(span).from))
    start += spanLength(span)
  })
  return Math.max(0, to - from)
}
