import type { Word } from '../tape/words'
import type { Frames, Stretch } from '../time'
import type { Found, Looked } from './finder'
import type { HeardSide } from './listen/side'

/** What finders that go by the sound of sides share. */

/** The first word that ends behind a frame, by its place among them. */
export function wordFrom(words: readonly Word[], frame: Frames): number {
  let [low, high] = [0, words.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (words[middle].to <= frame) low = middle + 1
    else high = middle
  }
  return low
}

/** Who is heard on a side at a place, by the words that lie there or next to it; undefined where nobody knows. */
export function speakerAt({ words }: Looked, { from, to }: Stretch): string | undefined {
  const at = wordFrom(words, from)
  const [after, before]: (Word | undefined)[] = [words[at], words[at - 1]]
  if (after && after.from < to) return after.speaker
  return (after && before && from - before.to < after.from - to ? before : (after ?? before))?.speaker
}

/** How much of a place is covered by words, in frames. */
export function saidOver({ words }: Looked, { from, to }: Stretch): Frames {
  let sum = 0
  for (let i = wordFrom(words, from); i < words.length && words[i].from < to; i++)
    sum += Math.max(0, Math.min(to, words[i].to) - Math.max(from, words[i].from))
  return sum
}

type Place = Omit<Found, 'side' | 'speaker'>

/** What is found on each side, in the order of the tape, with its side where there are several, and with who is heard there. */
export function onSides<T extends Place>(looked: Looked, find: (side: HeardSide, index: number) => T[]): (T & Found)[] {
  const { heard } = looked
  if (!heard) return []
  const all = heard.flatMap((side, i) =>
    find(side, i).map((place): T & Found => {
      const speaker = speakerAt(looked, place)
      return { ...place, ...(heard.length > 1 ? { side: i } : {}), ...(speaker ? { speaker } : {}) }
    }),
  )
  return all.sort((a, b) => a.from - b.from)
}
