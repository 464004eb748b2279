import { breathsBetween } from '../recognise/breaths'
import type { Word } from '../tape/words'
import { milliseconds, type Frames, type Stretch } from '../time'
import { AROUND, speechIn, wordsAtEdges, type Edge } from './edge'
import { place, type Placement } from './place'
import { jumpAt, predicted, usualIn, type Prediction } from './predict'
import { naturalGap, type Gap } from './rhythm'

/** A cut on its tapes: where a hand put its edges, and how far each may go. */
export interface CutOrder {
  left: EdgeOrder
  right: EdgeOrder
  /** It lies within what is said, as at a patch: no word ends there. */
  inWord?: true
}

export interface EdgeOrder {
  tape: string
  asked: Frames
  low: Frames
  high: Frames
}

/** What of a tape is needed for an edge: its words, and its sound around it. */
export interface Heard {
  words: readonly Word[]
  sound: Float32Array
  start: Frames
}

const WINDOW = AROUND + milliseconds(200)

/** How much sound around an edge is wanted. */
export const soundAround = ({ asked }: EdgeOrder, length: Frames): Stretch => ({
  from: Math.max(0, asked - WINDOW),
  to: Math.min(length, asked + WINDOW),
})

/** Places a cut, and says how likely it is to be heard then. */
export function placeCut(order: CutOrder, left: Heard, right: Heard): Placement & Prediction {
  const edges = edgesOf(order, left, right)
  const gap = gapWanted(edges, left, right, order)
  const placement = place(edges.left, edges.right, gap)
  return { ...placement, ...judged(edges, left, placement.left, placement.right, placement.lacks, gap?.natural ?? null) }
}

/** How likely a cut is to be heard as it lies, with so much added room in it. */
export function judgeCut(order: CutOrder, left: Heard, right: Heard, room: Frames = 0): Prediction {
  const edges = edgesOf(order, left, right)
  return judged(edges, left, order.left.asked, order.right.asked, room, gapWanted(edges, left, right, order)?.natural ?? null)
}

function judged(
  { left, right }: { left: Edge; right: Edge },
  heard: Heard,
  x: Frames,
  y: Frames,
  more: Frames,
  natural: Frames | null,
): Prediction {
  const gap = left.kept === null || right.kept === null ? null : Math.max(0, x - left.kept) + Math.max(0, right.kept - y) + more
  return predicted(jumpAt(left, right, x, y), usualIn(heard.sound, heard.start, near(heard), x), gap, natural)
}

const near = ({ words, sound, start }: Heard): Word[] =>
  words.filter((word) => word.to > start && word.from < start + sound.length && word.what !== 'noise')

function edgesOf(order: CutOrder, left: Heard, right: Heard): { left: Edge; right: Edge } {
  const onwards = order.left.tape === order.right.tape && order.right.asked >= order.left.asked
  const edge = (side: 'left' | 'right', heard: Heard): Edge => {
    const { asked, low, high } = order[side]
    // from elsewhere, all that lies beyond its own edge goes
    const stretch = onwards
      ? { from: order.left.asked, to: order.right.asked }
      : side === 'left'
        ? { from: asked, to: heard.start + heard.sound.length }
        : { from: heard.start, to: asked }
    if (order.inWord) return { sound: heard.sound, start: heard.start, asked, low, high, kept: null, gone: null }
    const words = near(heard)
    const known = words.length > 0 && words.every((word) => !word.rough)
    const at = wordsAtEdges(known ? words : speechIn(heard.sound, heard.start), stretch)[side]
    const pause: Stretch | null =
      at.kept === null || at.gone === null ? null : { from: Math.min(at.kept, at.gone), to: Math.max(at.kept, at.gone) }
    return {
      sound: heard.sound,
      start: heard.start,
      asked,
      low,
      high,
      ...at,
      breath: pause && known ? breathIn(pause, heard, words) : null,
    }
  }
  return { left: edge('left', left), right: edge('right', right) }
}

/** Shorter pauses hold no breath. */
const BREATHER = milliseconds(180)
/** So much talk around it tells how loud the talk is. */
const TALK = milliseconds(400)

function breathIn(pause: Stretch, { sound, start }: Heard, words: readonly Stretch[]): Stretch | null {
  if (pause.to - pause.from < BREATHER) return null
  const from = Math.max(start, pause.from - TALK)
  const part = sound.subarray(from - start, pause.to + TALK - start)
  const around = words
    .filter((word) => word.to > from && word.from < from + part.length)
    .map((word) => ({ from: Math.max(0, word.from - from), to: Math.min(part.length, word.to - from) }))
  const found = breathsBetween(part, around).find((breath) => breath.from + from >= pause.from && breath.to + from <= pause.to)
  return found ? { from: found.from + from, to: found.to + from } : null
}

/**
 * What this speaker would leave between the words that come to stand beside each other; where nothing but a part of a
 * pause goes, what the hand left of it.
 */
function gapWanted({ left, right }: { left: Edge; right: Edge }, heardLeft: Heard, heardRight: Heard, order: CutOrder): Gap | null {
  if (left.kept === null || right.kept === null) return null
  if (left.gone === null && right.gone === null) {
    const natural = Math.max(0, order.left.asked - left.kept) + Math.max(0, right.kept - order.right.asked)
    return { natural, least: 0, most: Infinity }
  }
  const before = heardLeft.words.find((word) => word.to === left.kept)
  const after = heardRight.words.find((word) => word.from === right.kept)
  return before && after ? naturalGap(before, after, heardLeft, heardRight) : null
}
