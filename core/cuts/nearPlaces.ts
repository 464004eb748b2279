import { isRoom, type Cut } from '../edits/editList'
import type { Word } from '../tape/words'
import type { Frames } from '../time'

/** A place for a cut one word away from where it lies: edges in frames of the tape, and what is then said otherwise. */
export interface NearPlace {
  left: Frames
  right: Frames
  /** The word that is then heard too, or no longer. */
  word: string
  said: boolean
}

/**
 * Where a cut may lie one word earlier or later, though that changes what is said by the word: what
 * goes before it, or one of those that were taken out comes back. `words` of the tape, in order.
 */
export function nearPlaces({ left, right }: Pick<Cut, 'left' | 'right'>, words: readonly Word[]): Record<'earlier' | 'later', NearPlace[]> {
  const none = { earlier: [], later: [] }
  if (left.tape !== right.tape || isRoom(left) || isRoom(right) || left.patch || right.patch || right.from <= left.to) return none
  const middle = (word: Word) => (word.from + word.to) / 2
  const kept = words.findLastIndex((word) => middle(word) < left.to)
  const next = words.findIndex((word) => middle(word) > right.from)
  if (kept < 0 || next < 0) return none
  const edges = { left: left.to, right: right.from }
  const [before, after, first, last] = [
    words[kept],
    words[next],
    next - kept > 1 ? words[kept + 1] : undefined,
    next - kept > 1 ? words[next - 1] : undefined,
  ]
  return {
    earlier: [
      ...(before.from > left.from ? [{ ...edges, left: before.from, word: before.text, said: false }] : []),
      ...(last && last.from > left.to ? [{ ...edges, right: last.from, word: last.text, said: true }] : []),
    ],
    later: [
      ...(first && first.to < right.from ? [{ ...edges, left: first.to, word: first.text, said: true }] : []),
      ...(after.to < right.to ? [{ ...edges, right: after.to, word: after.text, said: false }] : []),
    ],
  }
}
