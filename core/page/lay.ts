import type { LevelPoint } from '../sound/level'
import type { Frames, Stretch } from '../time'
import { byOrder } from './order'
import { findQuote, plainWord, type Anchor, type Quote } from './anchors'
import { levelUnder, voicesHeld, type Section } from './dips'
import { lengthFor } from './hangerSound'
import {
  blocksOf,
  hangersOf,
  lanesOf,
  marksOf,
  outputsOf,
  runningOrder,
  variantsOf,
  type Block,
  type Hanger,
  type Lane,
  type Output,
  type PageMark,
  type StoryDocument,
  type Unrecorded,
  type Variant,
} from './story'
import { wordShares } from './reading'
import { filed, layBlocks, wordsOf, type Layout, type LengthOf, type Placed } from './timing'

/** Gives every block, hanger and output of a page its place, in one pass. */

/** What is said in a piece. */
export interface Said {
  /** Its words, each with the frame of the piece at which it begins. */
  words(): readonly { text: string; at: Frames }[]
  /** The frame of the piece at which a frame of a tape is heard, or the nearest that is; null where the piece has none of the tape. */
  place(tape: string, at: Frames): { at: Frames; stands: boolean } | null
}

/** What the page must know of its pieces and tapes. What is unknown has no length, and no words. */
export interface Known {
  lengthOf: LengthOf
  saidIn?: (piece: string) => Said | undefined
}

/** Why a hanger does not lie where it was put: its block is set aside or not in this output, or its word is not said any more. */
export type Why = 'aside' | 'out' | 'unsaid'

/** Where an anchor holds: a place of the page, the block that it holds to there, and why that is not what it was put to. */
export interface Hold {
  at: Frames
  block: string | null
  why: Why | null
}

export interface PlacedHanger {
  hanger: Hanger
  lane: Lane
  from: Frames
  to: Frames
  /** How much of its sound is left out at its beginning: it would begin before the page, or is put to end with something. */
  skip: Frames
  start: Hold
  end: Hold | null
  /** How much shorter its sound is than where it was to lie. */
  short: Frames
  /** Its level line by itself, where it goes under voices: frames after its start on the page. */
  dips: LevelPoint[]
  /** Where it is under or up whoever speaks, as its sections say, in their order. */
  sections: Section[]
}

export interface PlacedMark {
  mark: PageMark
  at: Frames
}

export interface PageLayout extends Layout {
  hangers: PlacedHanger[]
  marks: PlacedMark[]
}

export interface OutputLayout {
  output: Output
  /** The blocks of the output, in its order. */
  order: Block[]
  /** All that goes on air: live and unrecorded copy take their reading time. Its length is the TRT. */
  air: PageLayout
  /** Exactly the file. What the host reads live is not in it. */
  file: PageLayout
}

/**
 * The layout of each output, in the order of the outputs. `unrecorded`: what becomes of copy without a voice track, where
 * that is otherwise than the outputs say.
 */
export function lay(document: StoryDocument, known: Known, unrecorded?: Unrecorded): OutputLayout[] {
  const blocks = blocksOf(document)
  const variants = variantsOf(document)
  const lanes = new Map(lanesOf(document).map((lane) => [lane.id, lane]))
  const hangers = hangersOf(document).filter(({ aside }) => !aside)
  const marks = marksOf(document)
  return outputsOf(document).map((output) => {
    const order = runningOrder(blocks, variants, output.id)
    const all = inPlace(blocks, variants, output.id)
    const withHangers = (layout: Layout) => hang(layout, all, { hangers, marks }, lanes, known)
    return {
      output,
      order,
      air: withHangers(layBlocks(order, known.lengthOf)),
      file: withHangers(layBlocks(filed(order, known.lengthOf, unrecorded ?? output.unrecorded), known.lengthOf)),
    }
  })
}

/** All blocks in the order of an output, also those that are set aside or out of it: they keep their place for what holds on to them. */
function inPlace(blocks: readonly Block[], variants: readonly Variant[], output: string): Block[] {
  const orders = new Map(variants.flatMap((one) => (one.output === output && one.order ? [[one.block, one.order] as const] : [])))
  return orders.size ? blocks.map((block) => ({ ...block, order: orders.get(block.id) ?? block.order })).sort(byOrder) : [...blocks]
}

function hang(
  layout: Layout,
  all: readonly Block[],
  { hangers, marks }: { hangers: readonly Hanger[]; marks: readonly PageMark[] },
  lanes: ReadonlyMap<string, Lane>,
  known: Known,
): PageLayout {
  const rows = new Map(layout.placed.map((row) => [row.block.id, row]))
  const places = new Map(all.map((block, i) => [block.id, i]))
  const hold = (anchor: Anchor) => holdOf(anchor, rows, all, places, known)
  const held = new Map<Frames, Stretch[]>()
  /** Most hangers hold alike. */
  const voices = (hold: Frames): Stretch[] => {
    const known = held.get(hold) ?? voicesHeld(layout.placed, hold)
    held.set(hold, known)
    return known
  }
  /** How it goes under where it lies. */
  const under = ({ dip, sections = [] }: Hanger, place: Stretch): Pick<PlacedHanger, 'sections' | 'dips'> => {
    const turns = sections.map(({ from, is }): Section => ({ at: hold(from).at, is }))
    return { sections: turns, dips: dip ? levelUnder(place, voices(dip.hold), turns, dip) : [] }
  }
  const placed = hangers.map((hanger): PlacedHanger => {
    const start = hold(hanger.start)
    const end = hanger.end && hold(hanger.end)
    const length = lengthOfSound(hanger, known.lengthOf)
    if (hanger.by === 'end' && end) {
      const to = Math.max(0, end.at)
      const wanted = to - Math.max(0, start.at)
      const whole = lengthFor(hanger, length, wanted)
      const from = Math.min(to, Math.max(0, start.at, to - whole))
      return {
        hanger,
        lane: lanes.get(hanger.lane)!,
        from,
        to,
        skip: whole - (to - from),
        start,
        end,
        short: from - Math.min(from, Math.max(0, start.at)),
        ...under(hanger, { from, to }),
      }
    }
    const from = Math.max(0, start.at)
    const skip = from - start.at
    const over = Math.max(from, start.at + length)
    const wanted = end ? Math.max(from, end.at) : over
    const to = Math.min(Math.max(from, start.at + lengthFor(hanger, length, wanted - start.at)), wanted)
    return { hanger, lane: lanes.get(hanger.lane)!, from, to, skip, start, end, short: wanted - to, ...under(hanger, { from, to }) }
  })
  const ends = placed.flatMap(({ from, to }) => (to > from ? [to] : []))
  return {
    ...layout,
    hangers: placed,
    marks: marks.map((mark) => ({ mark, at: Math.max(0, hold(mark.start).at) })),
    length: Math.max(layout.length, ...ends),
  }
}

const lengthOfSound = ({ plays }: Hanger, lengthOf: LengthOf): Frames =>
  'piece' in plays ? (lengthOf(plays.piece)?.length ?? 0) : plays.to - plays.from

function holdOf(
  anchor: Anchor,
  rows: ReadonlyMap<string, Placed>,
  all: readonly Block[],
  places: ReadonlyMap<string, number>,
  known: Known,
): Hold {
  if (!('block' in anchor)) return { at: anchor.at, block: null, why: null }
  const { block, at, offset } = anchor
  const row = rows.get(block)
  if (row) {
    if (at === 'start') return { at: row.at + offset, block, why: null }
    if (at === 'end') return { at: row.at + row.words + offset, block, why: null }
    const word = wordIn(row, at, known)
    return { at: word.at + offset, block, why: word.stands ? null : 'unsaid' }
  }
  const place = places.get(block)!
  const why = all[place].aside ? 'aside' : 'out'
  const next = all.slice(place + 1).find(({ id }) => rows.has(id))
  if (next) return { at: rows.get(next.id)!.at + offset, block: next.id, why }
  const last = all.slice(0, place).findLast(({ id }) => rows.has(id))
  if (!last) return { at: Math.max(0, offset), block: null, why }
  const { at: start, words } = rows.get(last.id)!
  return { at: start + words + offset, block: last.id, why }
}

/** Where a word of a block begins on the page. Of copy that is not recorded, at its share of the words. */
function wordIn(row: Placed, quote: Quote, { saidIn }: Known): { at: Frames; stands: boolean } {
  const { block, words: length } = row
  const said = row.sound === 'piece' ? saidIn?.(block.piece!) : undefined
  const end = row.at + length
  if (said && quote.said) {
    const place = said.place(quote.said.tape, quote.said.at)
    if (place) return { at: row.from + place.at, stands: place.stands }
  }
  const heard = said?.words() ?? []
  if (heard.length) {
    const found = findQuote(
      quote,
      heard.map(({ text }) => plainWord(text)),
    )
    const word = heard[found.index]
    return { at: word ? row.from + word.at : end, stands: found.stands }
  }
  const written = wordsOf(block)
  if (!written.length) return { at: row.at, stands: false }
  const found = findQuote(quote, written)
  return { at: row.at + Math.round((wordShares(block.text)[found.index] ?? 1) * length), stands: found.stands }
}
