import type { Actuality } from '../../core/edits/actuality'
import type { Nick } from '../../core/edits/gone'
import { toBench, type BenchLayout } from '../../core/edits/benchLayout'
import { lowCuts } from '../../core/edits/lowCut'
import { edits, listLength, type Edit, type Span } from '../../core/edits/editList'
import { isSideMuted, pieceWords, type PieceWord, type WordsOf } from '../../core/edits/pieceWords'
import { part, planOf, shifted, type FactsOf, type Plan, type Strip } from '../../core/render/plan'
import { lineBetween, type LevelPoint } from '../../core/sound/level'
import { ENDS, wordsIn, type Word } from '../../core/tape/words'
import { milliseconds, type Frames, type Stretch } from '../../core/time'
import { trustOf } from '../sheet/trust'
import type { Shade, SheetNick, SheetWord } from '../sheet/paint/model'

/** What the Bench's Sheet shows of a piece and its open nicks. */

export const nickKey = (nick: Pick<Nick, 'tape' | 'from' | 'to'>): string => `${nick.tape}/${nick.from}/${nick.to}`

/** The plan of what is laid out: as it will sound, and what was taken out as it was. */
export function benchPlan(sounding: Plan, layout: BenchLayout, factsOf: FactsOf): Plan {
  if (layout.length === sounding.length) return sounding
  const strips = layout.runs.flatMap((run) =>
    shifted((run.nick ? planOf(run.spans, factsOf) : part(sounding, run.inPiece, run.inPiece + run.length)).strips, run.at),
  )
  return { ...sounding, length: layout.length, strips }
}

/** The tape as it is, for the outline: only where a level or a handle's fade makes the piece sound otherwise. */
export function originalPlan(piece: Actuality, layout: BenchLayout, factsOf: FactsOf): Plan {
  const strips: Strip[] = []
  const end = listLength(piece.spans)
  for (const run of layout.runs) {
    let at = run.at
    let inPiece = run.inPiece
    for (const { level, mute, join: _, ...span } of run.spans) {
      const length = span.to - span.from
      if (!run.nick && (level || mute || inPiece < piece.head || inPiece + length > end - piece.tail))
        strips.push(...shifted(planOf([{ ...span, sound: 'tape' }], factsOf).strips, at))
      at += length
      inPiece += length
    }
  }
  return { length: layout.length, channels: 1, strips }
}

const PHRASE_PAUSE = milliseconds(450)

/** A word that is heard, and whether a phrase ends with it. */
export interface KeptWord extends PieceWord {
  phraseEnd: boolean
}

export function benchWords(piece: Actuality, layout: BenchLayout, wordsOf: WordsOf): { shown: SheetWord[]; kept: KeptWord[] } {
  const words = pieceWords(piece.spans, wordsOf, piece.sides)
  const kept = words.map((word, i): KeptWord => {
    const next = words[i + 1]
    return { ...word, phraseEnd: !next || ENDS.test(word.text) || next.at - word.end >= PHRASE_PAUSE || next.speaker !== word.speaker }
  })
  const shown: SheetWord[] = kept.map((word) => {
    const at = toBench(layout, word.at)
    return {
      at,
      end: at + word.end - word.at,
      text: word.text,
      look: word.what ? 'filler' : 'plain',
      speaker: word.speaker ?? '',
      trust: trustOf(word),
      phraseEnd: word.phraseEnd,
    }
  })
  for (const run of layout.runs) {
    let at = run.at
    for (const span of run.spans) {
      const sides = piece.sides?.[span.tape]
      if (span.mute) shown.push(...goneWords(span, at, wordsOf))
      else if (!run.nick && (span.mutes || sides?.some(({ hush }) => hush?.length)))
        shown.push(...goneWords(span, at, wordsOf, (word) => isSideMuted(word, sides, span)))
      at += span.to - span.from
    }
    if (run.nick) shown.push(...goneWords(run.spans[0], run.at, wordsOf))
  }
  if (shown.length > kept.length) shown.sort((a, b) => a.at - b.at)
  return { shown, kept }
}

/** The words of what is shown and not heard, from `at` on. */
const goneWords = (
  { tape, from, to }: Stretch & { tape: string },
  at: Frames,
  wordsOf: WordsOf,
  which: (word: Word) => boolean = () => true,
): SheetWord[] =>
  wordsIn(wordsOf(tape), from, to)
    .filter(which)
    .map((word) => ({
      at: at + Math.max(0, word.from - from),
      end: at + Math.min(to, word.to) - from,
      text: word.text,
      look: 'gone',
      speaker: word.speaker ?? '',
      trust: trustOf(word),
      phraseEnd: false,
    }))

/** One join, as the list beside the Sheet names it. */
export interface JoinRow {
  cut: Edit
  before: string
  after: string
}

const roomName = (span: Span): string | null => (span.mute ? 'muted' : span.sound === 'tone' ? 'held time' : null)

export function joinRows(piece: Actuality, kept: readonly PieceWord[]): JoinRow[] {
  let next = 0
  return edits(piece.spans).map((cut) => {
    while (next < kept.length && kept[next].at < cut.at - 1) next++
    const before = kept[next - 1]?.text ?? 'start'
    const after = kept[next]?.text ?? 'end'
    return { cut, before: roomName(cut.left) ?? before, after: roomName(cut.right) ?? after }
  })
}

export function benchShades(layout: BenchLayout): Shade[] {
  return layout.runs.flatMap((run): Shade[] => {
    if (run.nick) return [{ from: run.at, to: run.at + run.length, look: 'gone' }]
    let at = run.at
    return run.spans.flatMap((span): Shade[] => {
      const from = at
      at += span.to - span.from
      return span.mute
        ? [{ from, to: at, look: 'muted' }]
        : span.sound !== 'tape'
          ? [{ from, to: at, look: 'tone' }]
          : span.patch
            ? [{ from, to: at, look: 'patch' }]
            : []
    })
  })
}

export function benchNicks(piece: Actuality, layout: BenchLayout, chosen: number | null): SheetNick[] {
  const found: SheetNick[] = edits(piece.spans).map(({ at, join, played }) => ({
    at: toBench(layout, at),
    fade: join.fade,
    open: false,
    chosen: chosen === at,
    heard: played,
  }))
  for (const run of layout.runs) if (run.nick) found.push({ at: run.at, fade: 0, open: true, chosen: chosen === run.inPiece, heard: true })
  return found
}

/** The level lines of a piece, where they lie on the Bench; they sound as far as their spans do. */
export function benchLines(layout: BenchLayout): LevelPoint[][] {
  return layout.runs.flatMap((run) => {
    if (run.nick) return []
    let start = run.at
    return run.spans.flatMap(({ from, to, level }): LevelPoint[][] => {
      const at = start
      start += to - from
      if (!level) return []
      return [lineBetween(level, from, to).map((point) => ({ at: at + point.at - from, dB: point.dB }))]
    })
  })
}

/** Where a piece is cut below, as it lies on the Bench: what was taken out within is passed over. */
export const benchLowCuts = (piece: Actuality, layout: BenchLayout): (Stretch & { hertz: number })[] =>
  lowCuts(piece).map(({ from, to, hertz }) => ({ from: toBench(layout, from), to: toBench(layout, to), hertz }))

/** What spans say of their tapes, heard or not, as text. */
export const saidIn = (spans: readonly Span[], wordsOf: WordsOf): string =>
  spans
    .flatMap(({ tape, from, to }) => wordsIn(wordsOf(tape), from, to))
    .map((word) => word.text)
    .join(' ') || 'sound without words'

/** What was taken out at a nick, as text. */
export const takenOut = (nick: Nick, wordsOf: WordsOf): string =>
  nick.parts
    .flatMap(({ tape, from, to }) => wordsIn(wordsOf(tape), from, to))
    .map((word) => word.text)
    .join(' ') || 'a pause'
