import { RATE, toFrames, type Frames } from '../time'
import type { Block } from './story'

/** What the page must know of a piece to place it. */
export interface PieceLength {
  /** Length of the clip, and of the handles within it. */
  length: Frames
  head: Frames
  tail: Frames
}

export type LengthOf = (piece: string) => PieceLength | undefined

/** Copy without a voice track: left out of the file, or held in it as room tone. */
export type Unrecorded = 'out' | 'tone'

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
}

export interface Layout {
  placed: Placed[]
  length: Frames
}

export const wordCount = (text: string): number => text.split(/\s+/).filter((word) => /[\p{L}\p{N}]/u.test(word)).length

/** How long copy takes to read at a pace in words a minute. */
export const readingTime = (text: string, pace: number): Frames => Math.round((wordCount(text) * 60 * RATE) / pace)

/** Room that a recorded line has before and after its words, and so has one that is not recorded yet. */
const ROOM: Frames = toFrames(0.3)

/** How one block counts, wherever it lies. An actuality that is missing has no length. */
function measure(block: Block, lengthOf: LengthOf): { sound: Placed['sound']; words: Frames; head: Frames; tail: Frames } {
  const piece = block.kind !== 'intro' && block.piece ? lengthOf(block.piece) : undefined
  if (piece) return { sound: 'piece', words: Math.max(0, piece.length - piece.head - piece.tail), head: piece.head, tail: piece.tail }
  const words = block.kind === 'actuality' ? 0 : readingTime(block.text, block.pace)
  return block.kind === 'copy' && words > 0
    ? { sound: 'room', words, head: ROOM, tail: ROOM }
    : { sound: 'silent', words, head: 0, tail: 0 }
}

/**
 * Lays blocks one after the other: each block's words follow the last one's, and handles lie over
 * the neighbours. At the start, at the end and beside what is live there is nothing to lie over: there a
 * handle takes its own time. Copy that is not recorded yet lies as it will once it is.
 */
function lay(blocks: readonly Block[], lengthOf: LengthOf): Layout {
  const placed: Placed[] = []
  let cursor = 0
  let handle: Frames = 0
  for (const [i, block] of blocks.entries()) {
    const { sound, words, head, tail } = measure(block, lengthOf)
    const before = placed[i - 1]
    if (sound === 'silent') {
      cursor += handle
      placed.push({ block, at: cursor, words, from: cursor, to: cursor + words, sound })
      cursor += words
      handle = 0
      continue
    }
    const alone = !before || before.sound === 'silent'
    // a head that is longer than all that went before would begin before the start
    const room = alone ? head : Math.max(0, head - cursor)
    const at = cursor + room
    placed.push({ block, at, words, from: at - head, to: at + words + tail, sound })
    cursor = at + words
    handle = tail
  }
  // a long tail may reach past what follows it
  const length = Math.max(cursor + handle, ...placed.map((row) => row.to), 0)
  return { placed, length }
}

/** All that goes on air: live and unrecorded copy take their reading time. Its length is the TRT. */
export const onAir = (spine: readonly Block[], lengthOf: LengthOf): Layout => lay(spine, lengthOf)

/** Exactly the file. What the presenter reads live is not in it. */
export function inFile(spine: readonly Block[], lengthOf: LengthOf, unrecorded: Unrecorded): Layout {
  const blocks = spine.filter(
    (block) => block.kind !== 'intro' && ((block.piece && lengthOf(block.piece)) || (block.kind === 'copy' && unrecorded === 'tone')),
  )
  return lay(blocks, lengthOf)
}

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
  count(spine.filter((b) => b.kind !== 'actuality' && !b.text.trim()).length, 'words in one block', 'words in # blocks')
  count(
    spine.filter((b) => b.kind === 'copy' && b.text.trim() && !(b.piece && lengthOf(b.piece))).length,
    'a voice track',
    '# voice tracks',
  )
  count(spine.filter((b) => b.kind === 'actuality' && !(b.piece && lengthOf(b.piece))).length, 'an actuality', '# actualities')
  if (!slot) found.push('a slot')
  return found
}
