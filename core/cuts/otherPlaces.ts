import { isRoom, type Cut } from '../edits/editList'
import { bare } from '../find/bare'
import type { Word } from '../tape/words'
import type { Frames } from '../time'

/**
 * Where else a cut may lie so that the same words are heard: of what is said twice, either take may
 * be left at any word. "the harbour | office" is the same as "the | harbour office".
 */
export interface OtherPlaces {
  /** One word earlier, one word later: edges in frames of the tape. */
  earlier: { left: Frames; right: Frames } | null
  later: { left: Frames; right: Frames } | null
}

const NONE: OtherPlaces = { earlier: null, later: null }
const same = (a: Word | undefined, b: Word | undefined): boolean =>
  a !== undefined && b !== undefined && bare(a.text) !== '' && bare(a.text) === bare(b.text) && a.speaker === b.speaker

/** `words` of the tape, in order. */
export function otherPlaces({ left, right }: Pick<Cut, 'left' | 'right'>, words: readonly Word[]): OtherPlaces {
  if (left.tape !== right.tape || isRoom(left) || isRoom(right) || left.patch || right.patch || right.from <= left.to) return NONE
  const middle = (word: Word) => (word.from + word.to) / 2
  const kept = words.findLastIndex((word) => middle(word) < left.to)
  const next = words.findIndex((word) => middle(word) > right.from)
  if (kept < 0 || next < 0) return NONE
  const [before, after, firstGone, lastGone] = [words[kept], words[next], words[kept + 1], words[next - 1]]
  return {
    // the last word before goes, and the same word at the end of what went comes back
    earlier: same(before, lastGone) && before.from > left.from ? { left: before.from, right: lastGone.from } : null,
    later: same(firstGone, after) && after.to < right.to ? { left: firstGone.to, right: after.to } : null,
  }
}
