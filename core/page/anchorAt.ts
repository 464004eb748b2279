import { toFrames, type Frames } from '../time'
import { plainWord, quoteAt, type Anchor } from './anchors'
import type { Known } from './lay'
import { wordShares } from './reading'
import { wordsOf, type Layout, type Placed } from './timing'

/** A word nearer than this is what is meant. */
const NEAR: Frames = toFrames(0.4)

/** Where the words of a block begin on the page, as they are compared; of copy that is not recorded at their share of its time. */
export function wordPlaces(row: Placed, { saidIn }: Known): { text: string; at: Frames }[] {
  const heard = row.sound === 'piece' ? (saidIn?.(row.block.piece!)?.words() ?? []) : []
  if (heard.length) return heard.map(({ text, at }) => ({ text: plainWord(text), at: row.from + at }))
  const shares = wordShares(row.block.text)
  return wordsOf(row.block).map((text, i) => ({ text, at: row.at + Math.round(shares[i] * row.words) }))
}

/**
 * What a place of the page holds on to: the nearest word of the block that lies there, or the block's nearer edge; the time
 * itself where there is no block. `snap`: to the word, where one is near; else the place stays exactly where it is.
 */
export function anchorAt({ placed }: Layout, at: Frames, known: Known, snap = true): Anchor {
  const row = placed.findLast((one) => one.at <= at) ?? placed[0]
  if (!row) return { at }
  const block = row.block.id
  const words = wordPlaces(row, known)
  const nearest = words.reduce((best, word, i) => (Math.abs(word.at - at) < Math.abs((words[best]?.at ?? Infinity) - at) ? i : best), 0)
  const away = words.length ? at - words[nearest].at : Infinity
  const edges = [
    { at: 'start' as const, offset: at - row.at },
    { at: 'end' as const, offset: at - row.at - row.words },
  ]
  const edge = edges.reduce((best, one) => (Math.abs(one.offset) < Math.abs(best.offset) ? one : best))
  if (Math.abs(edge.offset) <= Math.min(NEAR, Math.abs(away))) return { block, ...edge, offset: snap ? 0 : edge.offset }
  if (at > row.at + row.words || Math.abs(away) > NEAR) return { block, ...edge }
  const quote = quoteAt(
    words.map(({ text }) => text),
    nearest,
  )
  return { block, at: quote, offset: snap ? 0 : away }
}
