import type { Word } from './words'
import type { Frames } from '../time'
import type { Mark } from './tape'

/** The words of a mark that stand behind a #, as what it is found by. */
export const keywordsOf = ({ text }: Pick<Mark, 'text'>): string[] =>
  [...text.matchAll(/#([\p{L}\p{N}_-]+)/gu)].map(([, word]) => word.toLowerCase())

/** The nearest of some places, in order, beyond a frame in a direction; null where there is none. A place just left does not count. */
export function beyond(places: readonly Frames[], frame: Frames, by: 1 | -1, slack: Frames): Frames | null {
  if (by > 0) return places.find((place) => place > frame + 1) ?? null
  return places.findLast((place) => place < frame - slack) ?? null
}

/** Where phrases begin: after a word that ends one, and wherever another speaker goes on. */
export const phraseStarts = (words: readonly Word[], ends: (index: number) => boolean): Frames[] =>
  words.flatMap((word, i) => (i === 0 || ends(i - 1) ? [word.from] : []))

/** Where another speaker begins. */
export const speakerStarts = (words: readonly Word[]): Frames[] =>
  words.flatMap((word, i) => (i === 0 || words[i - 1].speaker !== word.speaker ? [word.from] : []))
