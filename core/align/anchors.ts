import { bare } from '../find/bare'
import { toFrames, type Frames, type Stretch } from '../time'

/** A run of a text, and the stretch of tape on which it must lie. */
export interface Section {
  first: number
  count: number
  stretch: Stretch
}

/** So many words in a row, said once in the text and heard once on the tape, hold the two together. */
const IN_A_ROW = 3
/** Sections are as long as this where they can be: shorter ones are lost, longer ones are slow. */
const LENGTH: Frames = toFrames(15)

/** Places where each row of words is, if it is there once; -1 where it is there more often. */
function rows(words: readonly string[]): Map<string, number> {
  const places = new Map<string, number>()
  for (let i = 0; i + IN_A_ROW <= words.length; i++) {
    const row = words.slice(i, i + IN_A_ROW).join(' ')
    places.set(row, places.has(row) ? -1 : i)
  }
  return places
}

/** The longest list of pairs in which both rise (patience sorting). */
function rising(pairs: readonly (readonly [number, number])[]): (readonly [number, number])[] {
  const tails: number[] = []
  const before: number[] = []
  pairs.forEach(([, heard], i) => {
    let low = 0
    let high = tails.length
    while (low < high) {
      const middle = (low + high) >> 1
      if (pairs[tails[middle]][1] < heard) low = middle + 1
      else high = middle
    }
    before[i] = low ? tails[low - 1] : -1
    tails[low] = i
  })
  const found: (readonly [number, number])[] = []
  for (let i = tails.at(-1) ?? -1; i >= 0; i = before[i]) found.unshift(pairs[i])
  return found
}

/**
 * Cuts a text into sections at places where a rough guide of what the tape says agrees with it.
 * `guide`: words with their times, in order. Without any that agree it is one section.
 */
export function sections(texts: readonly string[], guide: readonly (Stretch & { text: string })[], length: Frames): Section[] {
  const written = texts.map(bare)
  const heard = rows(guide.map(({ text }) => bare(text)))
  const pairs = [...rows(written)].flatMap(([row, at]) => {
    const there = heard.get(row)
    return at >= 0 && there !== undefined && there >= 0 ? [[at, there] as const] : []
  })
  const found: Section[] = []
  let first = 0
  let from = 0
  for (const [at, there] of rising(pairs)) {
    // between the first word of the row and the second, both of which are certain
    const cut = Math.round((guide[there].to + guide[there + 1].from) / 2)
    if (cut - from < LENGTH || at + 1 - first < IN_A_ROW) continue
    found.push({ first, count: at + 1 - first, stretch: { from, to: cut } })
    first = at + 1
    from = cut
  }
  if (first < texts.length) found.push({ first, count: texts.length - first, stretch: { from, to: length } })
  return found
}
