import type { Actuality } from '../../core/edits/actuality'
import { nicks, type Nick } from '../../core/edits/acts'
import { toBench, type BenchLayout } from '../../core/edits/benchLayout'
import { cuts, listLength, type Cut } from '../../core/edits/editList'
import { pieceWords, type PieceWord, type WordsOf } from '../../core/edits/pieceWords'
import { part, planOf, shifted, type FactsOf, type Plan } from '../../core/sound/plan'
import { piecePlan } from '../../core/page/plan'
import { endsPhrase, wordsIn } from '../../core/tape/words'
import { milliseconds } from '../../core/time'
import type { Shade, SheetNick, SheetWord } from '../sheet/model'

/** What the Bench's Sheet shows of a piece and its open nicks. */

export const nickKey = (nick: Pick<Nick, 'tape' | 'from' | 'to'>): string => `${nick.tape}/${nick.from}/${nick.to}`

/** The plan of what is laid out: as it will sound, and what was taken out as it was. */
export function benchPlan(piece: Actuality, layout: BenchLayout, factsOf: FactsOf): Plan {
  const sounding = piecePlan(piece, factsOf)
  if (layout.length === sounding.length) return sounding
  const strips = layout.runs.flatMap((run) => shifted((run.nick ? planOf(run.spans, factsOf) : part(sounding, run.inPiece, run.inPiece + run.length)).strips, run.at))
  return { ...sounding, length: layout.length, strips }
}

/** The same without fades and levels: the tape as it is, for the outline. */
export function originalPlan(layout: BenchLayout, factsOf: FactsOf): Plan {
  const strips = layout.runs.flatMap((run) => {
    const bare = run.spans.map(({ level: _, join: __, ...span }) => ({ ...span, sound: 'tape' as const }))
    let at = run.at
    return bare.flatMap((span) => {
      const placed = shifted(planOf([span], factsOf).strips, at)
      at += span.to - span.from
      return placed
    })
  })
  return { length: layout.length, channels: 1, strips }
}

const PHRASE_PAUSE = milliseconds(450)

export function benchWords(piece: Actuality, layout: BenchLayout, wordsOf: WordsOf): { shown: SheetWord[]; kept: PieceWord[] } {
  const kept = pieceWords(piece.spans, wordsOf)
  const asPhrases = kept.map((word) => ({ ...word, from: word.at, to: word.end }))
  const shown: SheetWord[] = kept.map((word, i) => {
    const at = toBench(layout, word.at)
    return { at, end: at + word.end - word.at, text: word.text, look: word.what ? 'filler' : 'plain', speaker: word.speaker ?? '', phraseEnd: endsPhrase(asPhrases, i, PHRASE_PAUSE) }
  })
  for (const run of layout.runs)
    if (run.nick)
      for (const word of wordsIn(wordsOf(run.nick.tape), run.nick.from, run.nick.to)) {
        const at = run.at + Math.max(0, word.from - run.nick.from)
        shown.push({ at, end: Math.min(run.at + run.length, run.at + word.to - run.nick.from), text: word.text, look: 'gone', speaker: word.speaker ?? '', phraseEnd: false })
      }
  return { shown: shown.sort((a, b) => a.at - b.at), kept }
}

/** One join, as the list beside the Sheet names it. */
export interface JoinRow {
  cut: Cut
  before: string
  after: string
}

export function joinRows(piece: Actuality, kept: readonly PieceWord[]): JoinRow[] {
  let next = 0
  return cuts(piece.spans).map((cut) => {
    while (next < kept.length && kept[next].at < cut.at - 1) next++
    const before = kept[next - 1]?.text ?? 'start'
    const after = kept[next]?.text ?? 'end'
    return { cut, before: cut.left.sound === 'tone' ? 'room tone' : before, after: cut.right.sound === 'tone' ? 'room tone' : after }
  })
}

export function benchShades(layout: BenchLayout): Shade[] {
  return layout.runs.flatMap((run): Shade[] => {
    if (run.nick) return [{ from: run.at, to: run.at + run.length, look: 'gone' }]
    let at = run.at
    return run.spans.flatMap((span): Shade[] => {
      const from = at
      at += span.to - span.from
      return span.sound === 'tone' ? [{ from, to: at, look: 'tone' }] : []
    })
  })
}

export function benchNicks(piece: Actuality, layout: BenchLayout, chosen: number | null): SheetNick[] {
  const found: SheetNick[] = cuts(piece.spans).map((cut) => {
    return { at: toBench(layout, cut.at), open: false, chosen: chosen === cut.at, heard: cut.join.heard }
  })
  for (const run of layout.runs) if (run.nick) found.push({ at: run.at, open: true, chosen: chosen === run.inPiece, heard: true })
  return found
}

/** What was taken out, in the order of the piece, as text. */
export const takenOut = (piece: Actuality, wordsOf: WordsOf): { nick: Nick; text: string }[] =>
  nicks(piece).map((nick) => ({
    nick,
    text: wordsIn(wordsOf(nick.tape), nick.from, nick.to).map((word) => word.text).join(' '),
  }))

export const pieceLength = (piece: Actuality): number => listLength(piece.spans)
