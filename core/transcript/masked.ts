import type { Word } from '../tape/words'
import type { Stretch } from '../time'

/** What stands, wherever words get out, for what was said off the record. */
export const OFF_THE_RECORD = '(off the record)'

/** The words with each stretch that is off the record in one token, which says so and no more; a word that it touches is of it. */
export function masked(words: readonly Word[], off: readonly Stretch[]): Word[] {
  const out: Word[] = []
  let last: Stretch | null = null
  for (const word of words) {
    const found = off.find((stretch) => stretch.from < word.to && stretch.to > word.from)
    if (!found) out.push(word)
    else if (found !== last) {
      out.push({ text: OFF_THE_RECORD, from: word.from, to: word.to })
      last = found
    } else out[out.length - 1] = { ...out[out.length - 1], to: word.to }
  }
  return out
}
