import type { Actuality } from '../edits/actuality'
import { pieceWords, type WordsOf } from '../edits/pieceWords'
import { inCue, outCue } from '../tape/words'
import { clock, tradeLength } from '../time'
import { BLOCK_NAMES } from './blockNames'
import type { OutputLayout } from './lay'
import { BLOCK_KINDS } from './story'

/** A script, or the cue sheet of a piece, as it is printed: what is said about it, its table, and what stands below. */
export interface ScriptSheet {
  title: string
  /** When it airs, for whom, how long it is. */
  about: readonly string[]
  rows: readonly ScriptRow[]
  /** Paragraphs. */
  below: readonly string[]
}

export interface ScriptRow {
  from: string
  /** What it is, and who says it. */
  block: string
  who: string
  /** Copy, or the cues of a piece. */
  lines: readonly string[]
  length: string
}

type PieceOf = (id: string) => Actuality | undefined

/** The script of an output. `airs`: when it airs, in words; empty where that is not set. */
export function scriptOf(
  title: string,
  { output, air, file }: Pick<OutputLayout, 'output' | 'air' | 'file'>,
  airs: string,
  pieceOf: PieceOf,
  wordsOf: WordsOf,
): ScriptSheet {
  return {
    title: title || 'Script',
    about: [
      airs ? `Airs ${airs}` : 'No air time set',
      ...(output.client ? [output.client] : []),
      `TRT ${clock(air.length)}, slot ${output.slot ? clock(output.slot) : 'not set'}, file ${clock(file.length)}`,
    ],
    rows: air.placed.map(({ block, at, words }): ScriptRow => {
      const piece = block.piece ? pieceOf(block.piece) : undefined
      const { live, written } = BLOCK_KINDS[block.kind]
      return {
        from: clock(at),
        block: (!written && piece?.slug) || BLOCK_NAMES[block.kind],
        who: live ? 'live, not in the file' : written ? block.reader || 'no reader named' : piece ? whoIn(piece) : 'no piece',
        lines: written ? [block.text || '—'] : cuesOf(piece, wordsOf),
        length: tradeLength(words),
      }
    }),
    below: [],
  }
}

const whoIn = ({ speaker, role }: Actuality): string => [speaker, role].filter(Boolean).join(', ') || 'no speaker named'

function cuesOf(piece: Actuality | undefined, wordsOf: WordsOf): string[] {
  const said = piece ? pieceWords(piece.spans, wordsOf, piece.sides) : []
  return [`In: “${inCue(said) || 'no words on this tape yet'} …”`, `Out: “… ${outCue(said)}”`]
}

/** The cue sheet of one piece: who, how it begins and ends, how long it is, and all that is said. `tapes`: the names of those it is of. */
export function cueSheetOf(piece: Actuality, tapes: readonly string[], clip: number, wordsOf: WordsOf): ScriptSheet {
  const said = pieceWords(piece.spans, wordsOf, piece.sides).filter(({ what }) => what !== 'noise')
  const { head, tail } = piece
  const length = tradeLength(clip - head - tail)
  return {
    title: piece.slug || 'Cue sheet',
    about: [
      whoIn(piece),
      `Words ${length}, clip ${clock(clip)} with ${clock(head)} and ${clock(tail)} of room at its ends`,
      `From ${tapes.map((name) => `“${name}”`).join(', ')}`,
    ],
    rows: [
      {
        from: clock(0),
        block: piece.slug,
        who: whoIn(piece),
        lines: cuesOf(piece, wordsOf),
        length,
      },
    ],
    below: said.length ? [said.map(({ text }) => text).join(' ')] : [],
  }
}

/** `Wednesday 25 November 2026, 17:52 GMT+1`, of an air time as it was set, in the zone in which it was set; empty where it is none. */
export function airTimeAsSet(airs: string): string {
  const [, day, time, zone] = /^(\d{4}-\d\d-\d\d)T(\d\d:\d\d)(?::\d\d)?([+-]\d\d:\d\d|Z)?$/.exec(airs) ?? []
  if (!day) return ''
  const said = new Date(`${day}T00:00Z`).toLocaleDateString('en-GB', {
    weekday: 'long',
    day: 'numeric',
    month: 'long',
    year: 'numeric',
    timeZone: 'UTC',
  })
  const [, sign, hours, minutes] = /^([+-])(\d\d):(\d\d)$/.exec(zone ?? '') ?? []
  const offset = !hours || (hours === '00' && minutes === '00') ? '' : `${sign}${Number(hours)}${minutes === '00' ? '' : `:${minutes}`}`
  return `${said.replace(',', '')}, ${time} GMT${offset}`
}
