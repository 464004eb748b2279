import { toFrames, type Frames } from '../time'
import { plainWords } from './anchors'
import { withoutNotes } from './notes'
import { paceFrom, readingTime, USUAL_PACE, type Take } from './reading'
import { BLOCK_KINDS, isRecorded, type Block, type Unrecorded } from './story'

/** What the page must know of a piece to place it. */
export interface PieceLength {
  /** Length of the clip, and of the handles within it. */
  length: Frames
  head: Frames
  tail: Frames
}

export type LengthOf = (piece: string) => PieceLength | undefined

/** Where a block lies. */
export interface Placed {
  block: Block
  /** Where its words begin, and how long they are: what counts. */
  at: Frames
  words: Frames
  /** Where its sound begins and ends: handles lie over the neighbours. */
  from: Frames
  to: Frames
  /** Sound, the room in which copy will be read, or nothing but time: what is live. */
  sound: 'piece' | 'room' | 'silent'
  /** At which its copy is read, in words a minute; null where nothing is read from copy. */
  pace: number | null
}

export interface Layout {
  placed: Placed[]
  length: Frames
}

/** What was worked out for a block is kept with it: blocks never change, and a page is laid at every letter. */
const known = new WeakMap<Block, string[]>()

/** The words of a block's text, as they are compared. */
export function wordsOf(block: Block): string[] {
  let words = known.get(block)
  if (!words) known.set(block, (words = plainWords(withoutNotes(block.text))))
  return words
}

/** Room that a recorded line has before and after its words, and so has one that is not recorded yet. */
const ROOM: Frames = toFrames(0.3)

/** The pace at which a block is read, in words a minute of ordinary copy. */
export type Paces = (block: Block) => number

/**
 * Paces on a page: what is set at a block, else how its reader read the lines that they have recorded there, else the usual one.
 * Who reads live is known by no takes.
 */
export function pacesOn(blocks: readonly Block[], lengthOf: LengthOf): Paces {
  const takes = new Map<string, Take[]>()
  for (const block of blocks) {
    const piece = isRecorded(block) && block.piece && block.text ? lengthOf(block.piece) : undefined
    if (!piece) continue
    const take = { text: block.text, time: Math.max(0, piece.length - piece.head - piece.tail) }
    takes.set(block.reader, [...(takes.get(block.reader) ?? []), take])
  }
  const learnt = new Map([...takes].map(([reader, read]) => [reader, paceFrom(read)]))
  return (block) => block.pace ?? (isRecorded(block) ? learnt.get(block.reader) : null) ?? USUAL_PACE
}

/** How one block counts, wherever it lies. A piece that is missing has no length. */
function measure(
  block: Block,
  lengthOf: LengthOf,
  paces: Paces,
): Pick<Placed, 'sound' | 'words' | 'pace'> & { head: Frames; tail: Frames } {
  const { live, written } = BLOCK_KINDS[block.kind]
  const piece = !live && block.piece ? lengthOf(block.piece) : undefined
  if (piece)
    return { sound: 'piece', words: Math.max(0, piece.length - piece.head - piece.tail), head: piece.head, tail: piece.tail, pace: null }
  const pace = written ? paces(block) : null
  const words = pace ? readingTime(block.text, pace) : 0
  return !live && words > 0 ? { sound: 'room', words, head: ROOM, tail: ROOM, pace } : { sound: 'silent', words, head: 0, tail: 0, pace }
}

/**
 * Lays blocks one after the other: each block's words follow the last one's, by as much as its gap later or sooner, and
 * handles lie over the neighbours. At the start, at the end and beside what is live there is nothing to lie over: there a
 * handle takes its own time. Copy that is not recorded yet lies as it will once it is. No block begins before the one before it.
 */
export function layBlocks(blocks: readonly Block[], lengthOf: LengthOf): Layout {
  const placed: Placed[] = []
  let cursor = 0
  let handle: Frames = 0
  const paces = pacesOn(blocks, lengthOf)
  for (const [i, block] of blocks.entries()) {
    const { sound, words, head, tail, pace } = measure(block, lengthOf, paces)
    const before = placed[i - 1]
    const alone = !before || sound === 'silent' || before.sound === 'silent'
    // beside what is live, nothing lies over it
    const end = alone ? cursor + handle : cursor
    const wanted = Math.max(before?.at ?? 0, end + (block.gap ?? 0))
    // a head that is longer than all that went before would begin before the start
    const at = alone ? wanted + head : Math.max(wanted, head)
    placed.push({ block, at, words, from: at - head, to: at + words + tail, sound, pace })
    cursor = at + words
    handle = tail
  }
  // a long tail may reach past what follows it
  const length = Math.max(cursor + handle, ...placed.map((row) => row.to), 0)
  return { placed, length }
}

/** The blocks that are in the file: what the host reads live is not. */
export const filed = (blocks: readonly Block[], lengthOf: LengthOf, unrecorded: Unrecorded): Block[] =>
  blocks.filter(
    (block) => !BLOCK_KINDS[block.kind].live && ((block.piece && lengthOf(block.piece)) || (isRecorded(block) && unrecorded === 'tone')),
  )

/** All that goes on air: live and unrecorded copy take their reading time. Its length is the TRT. */
export const onAir = layBlocks

/** Exactly the file. */
export const inFile = (blocks: readonly Block[], lengthOf: LengthOf, unrecorded: Unrecorded): Layout =>
  layBlocks(filed(blocks, lengthOf, unrecorded), lengthOf)

/** What a page comes to, all figures in frames. */
export interface Figures {
  trt: Frames
  slot: Frames
  /** Positive where the page runs past its slot. */
  over: Frames
  file: Frames
}

export function figures(spine: readonly Block[], slot: Frames, lengthOf: LengthOf, unrecorded: Unrecorded): Figures {
  const trt = onAir(spine, lengthOf).length
  return { trt, slot, over: trt - slot, file: inFile(spine, lengthOf, unrecorded).length }
}

/** What a page still lacks before it can go, in plain words. */
export function lacks(spine: readonly Block[], slot: Frames, lengthOf: LengthOf): string[] {
  const found: string[] = []
  const count = (n: number, one: string, many: string) => n && found.push(n === 1 ? one : many.replace('#', String(n)))
  if (!spine.length) return ['everything']
  if (!spine.some((block) => block.kind === 'intro')) found.push('a host intro')
  const missing = (block: Block) => !(block.piece && lengthOf(block.piece))
  count(spine.filter((b) => BLOCK_KINDS[b.kind].written && !b.text.trim()).length, 'words in one block', 'words in # blocks')
  const unread = spine.filter((b) => isRecorded(b) && b.text.trim() && missing(b))
  count(unread.length, 'a voice track', '# voice tracks')
  count(spine.filter((b) => b.kind === 'actuality' && missing(b)).length, 'an actuality', '# actualities')
  count(spine.filter((b) => b.kind === 'full' && missing(b)).length, 'a piece of natural sound', '# pieces of natural sound')
  if (!slot) found.push('a slot')
  return found
}
