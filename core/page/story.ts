import type { Term } from '../recognise/terms'
import type { DocumentType } from '../steps/document'
import { recordsType, type Bag, type RecordStep } from '../steps/records'
import type { LevelPoint } from '../sound/level'
import type { Frames, Stretch } from '../time'
import type { MarkColour } from '../tape/tape'
import type { Anchor } from './anchors'
import type { Dip, SectionIs } from './dips'
import type { EndShape } from '../sound/fade'
import { byOrder } from './order'

/**
 * A story and its page: a running order of blocks, down which time runs, what lies beside it, and the outputs that it
 * is sent as. It changes by steps.
 */
export interface StoryDocument {
  kind: 'story'
  records: Bag<StoryRecord>
}

export interface StoryHead {
  id: 'story'
  kind: 'story'
  slug: string
  /** Names and terms that its tapes are likely to say. */
  terms?: Term[]
}

/** How each kind of block comes to air: read live by the host, so that it is not in the file; with words of its own, or a piece of tape. */
export const BLOCK_KINDS = {
  intro: { live: true, written: true },
  copy: { live: false, written: true },
  actuality: { live: false, written: false },
  /** Sound up full: a piece of natural sound that stands by itself. */
  full: { live: false, written: false },
  tag: { live: true, written: true },
  /** The standard out cue. */
  soc: { live: false, written: true },
} as const

export type BlockKind = keyof typeof BLOCK_KINDS

export interface Block {
  id: string
  kind: BlockKind
  /** Fractional index: place in the running order. */
  order: string
  /** In the offcuts: set aside, still usable. */
  aside: boolean
  text: string
  reader: string
  /** Reading speed that somebody has set, in words a minute of ordinary copy; absent, it is the reader's own (see `pacesOn`). */
  pace?: number
  /** The piece it plays: the actuality, or the voice track that was recorded for what is read. Null where there is none. */
  piece: string | null
  /** Room that it leaves to the block before; below 0 it begins before that one has ended. Absent: it butts. */
  gap?: Frames
  /** What its piece is turned by on this page, in dB. */
  gain?: number
  /** Where its piece is heard on this page: −1 left, 1 right. Absent: in the middle, or as stereo as it is. */
  pan?: number
}

/** A bed, ambience or an effect: it lies beside the running order, on a lane, and holds on to it. */
export interface Hanger {
  id: string
  kind: 'hanger'
  lane: string
  aside: boolean
  /** A piece, or a stretch of a tape. */
  plays: { piece: string } | { tape: string; from: Frames; to: Frames }
  start: Anchor
  /** Where it ends; null where it plays to its own end. */
  end: Anchor | null
  /** In dB. */
  gain: number
  /** A level line of the page: frames of its sound after the first, and upon its gain. */
  level?: LevelPoint[]
  /** How it goes under where somebody speaks; absent where it does not. */
  dip?: Dip
  /** Where it is under or up whoever speaks, from each place on to the next. */
  sections?: readonly HangerSection[]
  /** Where it is heard between left and right, from each place on to the next; one place where it stays. */
  pan?: readonly PanStop[]
  /** How long it comes in and goes out; as short as leaves no click where they are not set. */
  fadeIn?: Frames
  fadeOut?: Frames
  /** In which curve; of equal power where none is chosen. */
  shapeIn?: EndShape
  shapeOut?: EndShape
  /** Its last frame lies at its end, so that music ends with what it is under; what does not fit is left out at its beginning. */
  by?: 'end'
  /** Where its sound is over before its end, it goes on with other parts of it. Of a stretch of tape only. */
  goesOn?: boolean
  /** Where its music is over before its end, it goes back from one place of the tape to another. Of a stretch of tape only. */
  back?: Back
}

/** Music goes back from `to` to `from`, which sound alike: frames of its tape. `same`: the wave is the same at both. */
export interface Back extends Stretch {
  same?: true
}

export interface HangerSection {
  from: Anchor
  is: SectionIs
}

/** A place between left (−1) and right (1). */
export interface PanStop {
  /** Frames of the sound after its first. */
  at: Frames
  to: number
}

/** A place of the page that somebody has marked, with a word or two and #keywords. */
export interface PageMark {
  id: string
  kind: 'mark'
  start: Anchor
  text: string
  colour?: MarkColour
  star?: boolean
}

/** What hangers lie on. Solo belongs to who listens, and is never kept. */
export interface Lane {
  id: string
  kind: 'lane'
  name: string
  colour: MarkColour
  order: string
  locked: boolean
  muted: boolean
  /** In dB. */
  gain: number
}

/** Copy without a voice track: left out of the file, or held in it as room tone. */
export type Unrecorded = 'out' | 'tone'

/** One form of a story, for one slot. */
export interface Output {
  id: string
  kind: 'output'
  name: string
  order: string
  /** The programme, for file names. */
  client: string
  /** Air time, ISO 8601 with date and zone: "2026-11-25T17:52+00:00". Empty where not set; older ones have no zone. */
  airs: string
  slot: Frames
  /** In LUFS; null where it goes as it is. */
  loudness: number | null
  unrecorded: Unrecorded
  /** What the whole of it is turned by, in dB. */
  gain?: number
}

/** How one block is otherwise in one output. What it does not tell is as on the page. */
export interface Variant {
  /** Of both ids, so that two who begin one at once begin the same: see `variantId`. */
  id: string
  kind: 'variant'
  output: string
  block: string
  out?: true
  order?: string
  piece?: string
  text?: string
  gap?: Frames
  pace?: number
}

/** What of a block an output can have otherwise. */
export type Otherwise = Pick<Variant, 'out' | 'order' | 'piece' | 'text' | 'gap' | 'pace'>

/** Steps by which a block is otherwise in one output; what is undefined is as on the page. Empty where that is so already. */
export function inOutput({ records }: StoryDocument, output: string, block: string, otherwise: Otherwise): StoryStep[] {
  const id = variantId(output, block)
  const known = Object.hasOwn(records, id) ? (records[id] as Variant) : null
  const keys = Object.keys(otherwise) as (keyof Otherwise)[]
  if (known) return keys.filter((key) => known[key] !== otherwise[key]).map((key) => ({ type: 'set', id, key, value: otherwise[key] }))
  const told = Object.fromEntries(keys.flatMap((key) => (otherwise[key] === undefined ? [] : [[key, otherwise[key]]])))
  return Object.keys(told).length ? [{ type: 'put', record: { id, kind: 'variant', output, block, ...told } }] : []
}

/** What a block has otherwise in one output than on the page, by its id. */
export const othersIn = (document: StoryDocument, output: string): ReadonlyMap<string, Variant> =>
  new Map(variantsOf(document).flatMap((variant) => (variant.output === output ? [[variant.block, variant] as const] : [])))

/** Whether a voice track is recorded for a block. */
export const isRecorded = ({ kind }: Pick<Block, 'kind'>): boolean => BLOCK_KINDS[kind].written && !BLOCK_KINDS[kind].live

export type StoryRecord = StoryHead | Block | Hanger | Lane | Output | Variant | PageMark
export type StoryStep = RecordStep<StoryRecord>

/** What an output is brought to where it has no loudness of its own, in LUFS (EBU R 128). */
export const USUAL_LOUDNESS = -23

/** What a record of a page belongs to: a hanger to its lane and its blocks, a mark to its block, a variant to its output and its block. */
function pointsTo(properties: object): string[] {
  const {
    lane,
    output,
    block,
    start,
    end,
    sections = [],
  } = properties as Partial<Pick<Hanger, 'lane' | 'start' | 'end' | 'sections'> & Pick<Variant, 'output' | 'block'>>
  const blocks = [start, end, ...sections.map(({ from }) => from)].flatMap((anchor) => (anchor && 'block' in anchor ? anchor.block : []))
  return [lane, output, block, ...blocks].filter((id) => id !== undefined)
}

const NO_OUTPUT = 'a story has at least one output'

export const storyType: DocumentType<StoryDocument, StoryStep> = {
  ...recordsType<StoryRecord, StoryDocument>(pointsTo),
  fault: (document) => (ofKind(document, 'output').length ? null : NO_OUTPUT),
}

/** What is wrong with a story beyond its single records: none of it comes about by steps. */
export function brokenIn(document: StoryDocument): string[] {
  const dangling = danglingIn(document).map((id) => `${id}: what it belongs to is missing`)
  return [...(ofKind(document, 'output').length ? [] : [NO_OUTPUT]), ...dangling]
}

/** The ids of records that belong to others which are not there. */
export const danglingIn = ({ records }: StoryDocument): string[] =>
  Object.keys(records).filter((id) => pointsTo(records[id]).some((other) => !Object.hasOwn(records, other)))

export const variantId = (output: string, block: string): string => `${output}:${block}`

export const storyHead = (document: StoryDocument): StoryHead => document.records.story as StoryHead

const isBlock = (record: StoryRecord): record is Block => Object.hasOwn(BLOCK_KINDS, record.kind)

/** The records of one kind. */
function ofKind<K extends Exclude<StoryRecord['kind'], BlockKind>>(document: StoryDocument, kind: K) {
  return Object.values(document.records).filter((record): record is Extract<StoryRecord, { kind: K }> => record.kind === kind)
}

export const blocksOf = (document: StoryDocument): Block[] => Object.values(document.records).filter(isBlock).sort(byOrder)

export const spineOf = (document: StoryDocument): Block[] => blocksOf(document).filter((block) => !block.aside)

export const offcutsOf = (document: StoryDocument): Block[] => blocksOf(document).filter((block) => block.aside)

export const hangersOf = (document: StoryDocument): Hanger[] => ofKind(document, 'hanger')

export const lanesOf = (document: StoryDocument): Lane[] => ofKind(document, 'lane').sort(byOrder)

export const marksOf = (document: StoryDocument): PageMark[] => ofKind(document, 'mark')

/** The outputs of a story in their order; there is always one. */
export const outputsOf = (document: StoryDocument): Output[] => ofKind(document, 'output').sort(byOrder)

export const variantsOf = (document: StoryDocument): Variant[] => ofKind(document, 'variant')

/** The output that a story has from the beginning. */
export const firstOutput = (document: StoryDocument): Output => outputsOf(document)[0]

/** The piece that a record of a page plays. */
function pieceIn(record: StoryRecord): string | null {
  if ('plays' in record) return 'piece' in record.plays ? record.plays.piece : null
  return ('piece' in record && record.piece) || null
}

/** The pieces that are on a page, in any of its outputs or set aside. */
export const piecesIn = ({ records }: StoryDocument): string[] => [
  ...new Set(Object.values(records).flatMap((record) => pieceIn(record) ?? [])),
]

/** A record of a page with another piece in place of the one it plays. */
export function withPiece<R extends StoryRecord>(record: R, change: (piece: string) => string): R {
  const piece = pieceIn(record)
  if (piece === null) return record
  return 'plays' in record ? { ...record, plays: { piece: change(piece) } } : { ...record, piece: change(piece) }
}

/** The blocks of a page as they are in one output, in its order. */
export function runningOrder(blocks: readonly Block[], variants: readonly Variant[], output: string): Block[] {
  const changed = new Map(variants.filter((variant) => variant.output === output).map((variant) => [variant.block, variant]))
  const standing = blocks.flatMap((block): Block[] => {
    const variant = changed.get(block.id)
    if (block.aside || variant?.out) return []
    if (!variant) return [block]
    const { order = block.order, piece = block.piece, text = block.text, gap = block.gap, pace = block.pace } = variant
    return [{ ...block, order, piece, text, ...(gap === undefined ? {} : { gap }), ...(pace === undefined ? {} : { pace }) }]
  })
  return changed.size ? standing.sort(byOrder) : standing
}

/** A new story with its one output. */
export function newStory(
  { slug, terms }: Pick<StoryHead, 'slug' | 'terms'>,
  output: Pick<Output, 'id'> & Partial<Output>,
  others: readonly StoryRecord[] = [],
): StoryDocument {
  const head: StoryHead = { id: 'story', kind: 'story', slug, ...(terms ? { terms } : {}) }
  const first: Output = {
    kind: 'output',
    name: '',
    order: 'a0',
    client: '',
    airs: '',
    slot: 0,
    loudness: null,
    unrecorded: 'out',
    ...output,
  }
  return { kind: 'story', records: Object.fromEntries([...others, head, first].map((record) => [record.id, record])) }
}
