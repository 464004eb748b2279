import { ENDS, type Word } from '../tape/words'
import { milliseconds, type Frames } from '../time'

/** The gaps that a speaker makes: after a sentence, after a clause, and inside one. */

type Kind = 'sentence' | 'clause' | 'within'

const kindOf = ({ text }: Word): Kind => (ENDS.test(text) ? 'sentence' : /[,;:–—]["”’]?$/.test(text) ? 'clause' : 'within')

/** Of somebody who never made one that is known. */
const USUAL: Record<Kind, Frames> = { sentence: milliseconds(380), clause: milliseconds(180), within: milliseconds(20) }
/** So many of their own, the nearest ones, tell better than a mean of all. */
const NEAREST = 7
const FEWEST = 3
/** What is longer is no gap between words but a rest. */
const LONGEST = milliseconds(2000)

/** The gap that would stand between two words of a tape if they had been said one after the other; `words` in order. */
export function naturalGap(words: readonly Word[], left: Word, right: Word): Frames {
  const kind = kindOf(left)
  const own = words.flatMap((word, i) => {
    const next = words[i + 1]
    if (!next || word.speaker !== left.speaker || next.speaker !== left.speaker || word.what || next.what || kindOf(word) !== kind) return []
    const gap = Math.max(0, next.from - word.to)
    // the gaps at the cut itself are what a stumble made of them
    return gap < LONGEST && word !== left && next !== right ? [{ gap, away: Math.abs(word.to - left.to) }] : []
  })
  if (own.length < FEWEST) return USUAL[kind]
  const near = own.sort((a, b) => a.away - b.away).slice(0, NEAREST).map(({ gap }) => gap).sort((a, b) => a - b)
  return near[Math.floor((near.length - 1) / 2)]
}
