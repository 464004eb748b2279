import type { Frames } from '../time'

/**
 * What a hanger holds on to. An anchor is never rewritten when the page changes: it is looked up anew each time that the
 * page is laid. So it moves with what it holds, goes to the nearest place that stands while that is gone, and is back when
 * that is back.
 */

/**
 * A word by what is around it, all without capitals and punctuation, as a quotation is found again (after the text quote
 * selector of W3C's Web Annotation model).
 */
export interface Quote {
  word: string
  /** Words before and after it, nearest first; `AROUND` at most. */
  before: readonly string[]
  after: readonly string[]
  /** Which word of the block it was: tells alike places apart. */
  index: number
  /** Where the word begins, in frames of the tape that says it. */
  said?: { tape: string; at: Frames }
}

export type Anchor =
  /** A block's edge, or the beginning of a word in it. */
  | { block: string; at: 'start' | 'end' | Quote; offset: Frames }
  /** A time of the page. */
  | { at: Frames }

/** What holds to a place so much later. */
export const shiftedAnchor = (anchor: Anchor, by: Frames): Anchor =>
  'block' in anchor ? { ...anchor, offset: anchor.offset + by } : { at: anchor.at + by }

export const AROUND = 4

/** A word as it is compared: without capitals and punctuation. */
export const plainWord = (word: string): string => word.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '')

/** The words of a text that count as such, as they are compared. */
export const plainWords = (text: string): string[] => text.split(/\s+/).map(plainWord).filter(Boolean)

/** A word of a text of plain words, to be found again in what the text becomes. */
export function quoteAt(words: readonly string[], index: number, said?: Quote['said']): Quote {
  const before = words.slice(Math.max(0, index - AROUND), index).reverse()
  return { word: words[index], before, after: words.slice(index + 1, index + 1 + AROUND), index, ...(said ? { said } : {}) }
}

/** How many words of a run are the same as those found from a place on, in one direction. */
function sameFrom(run: readonly string[], words: readonly string[], place: number, by: 1 | -1): number {
  let count = 0
  while (count < run.length && run[count] === words[place + by * count]) count++
  return count
}

/**
 * Where a quotation stands in words now: the like word whose surroundings are most alike, the nearest of several. Where
 * what was around it tells more, it is gone: then the place that is left, up to the number of words (their end).
 */
export function findQuote({ word, before, after, index }: Quote, words: readonly string[]): { index: number; stands: boolean } {
  let best = { index: Math.min(index, words.length), score: 0, stands: false }
  const offer = (place: number, score: number, stands: boolean) => {
    const nearer = stands === best.stands && Math.abs(place - index) < Math.abs(best.index - index)
    if (score > best.score || (score === best.score && score > 0 && nearer)) best = { index: place, score, stands }
  }
  for (let place = 0; place <= words.length; place++) {
    const left = sameFrom(before, words, place - 1, -1)
    const right = sameFrom(after, words, place + 1, 1)
    if (words[place] === word) offer(place, left + right + 1, true)
    // another word stands there, or none
    else if (left && right) offer(place, left + right, false)
    offer(place, left + sameFrom(after, words, place, 1), false)
  }
  return { index: best.index, stands: best.stands }
}
