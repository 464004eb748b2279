import { bare } from '../find/bare'
import { wordsIn, type Word } from '../tape/words'
import type { Frames, Stretch } from '../time'
import { spoiltBy } from './alike'
import { bySound, byWords, soughtAt } from './candidates'
import { fit, FIT_AROUND, type Fit, type Part } from './fit'
import type { Looks } from './sound'
import { overlaps } from '../stretches'

/** The same said elsewhere on a tape, ranked by how well it would stand for a bad spot. */

export interface Twin extends Fit {
  /** Where it was found, and what is said there; empty where no words are known. */
  at: Stretch
  text: string
  foundBy: FoundBy
}

/** By what is said, where words are known, or by the sound alone. */
export type FoundBy = 'words' | 'sound'

/** So many that sound alike are tried, and so many that say the same. */
const BY_SOUND = 12
const BY_WORDS = 60
/** Of what only similar sound, how well it fits counts so much, and so much that speaks for it counts as much as one. */
const FITS = 0.15
const SPEAKS = 10
/** A neighbour that is the same word makes the sound run on as it did. */
const NEIGHBOUR = 0.25

/**
 * `looks` of the whole tape, `soundOf` a stretch of it. `allowed` says where sound may be taken
 * from: nothing is offered that was said off the record. `by`: what is found one way alone; by sound
 * that takes longer, and gives nothing that is found by words.
 */
export function twins(
  spot: Stretch,
  words: readonly Word[],
  looks: Looks,
  soundOf: (stretch: Stretch) => Part,
  allowed: (stretch: Stretch) => boolean,
  count: number,
  by?: FoundBy,
): Twin[] {
  const sought = soughtAt(words, spot)
  const spoilt = spoiltBy(looks, spot)
  const said = byWords(words, sought).filter(allowed)
  const near = said.sort((a, b) => Math.abs(a.from - spot.from) - Math.abs(b.from - spot.from)).slice(0, BY_WORDS)
  const alike =
    by === 'words'
      ? []
      : bySound(looks, sought, spoilt, BY_SOUND).filter((stretch) => allowed(stretch) && !near.some((other) => overlaps(other, stretch)))
  const around = ({ from, to }: Stretch): Part => soundOf({ from: Math.max(0, from - FIT_AROUND), to: to + FIT_AROUND })
  const target = around(sought.sought)
  const sides = neighbours(words, sought.sought)
  const tried = ({ from, to }: Stretch, foundBy: Twin['foundBy'], weigh: (cost: number) => number): Twin[] => {
    const stretch = { from, to }
    const found = fit(sought, spoilt, looks, target, around(stretch), stretch)
    if (!found || overlaps(found.laid, spot) || !allowed(found.laid)) return []
    const same = neighbours(words, stretch).filter((word, i) => word !== '' && word === sides[i]).length
    return [
      {
        ...found,
        cost: weigh(found.cost) - NEIGHBOUR * same,
        at: stretch,
        text: wordsIn(words, stretch.from, stretch.to)
          .map(({ text }) => text)
          .join(' '),
        foundBy,
      },
    ]
  }
  const byCost = (a: Twin, b: Twin) => a.cost - b.cost
  return [
    ...(by === 'sound' ? [] : near).flatMap((stretch) => tried(stretch, 'words', (cost) => cost)).sort(byCost),
    ...alike.flatMap((stretch) => tried(stretch, 'sound', (cost) => FITS * cost - stretch.score / SPEAKS)).sort(byCost),
  ].slice(0, count)
}

/** The words on either side of a stretch. */
function neighbours(words: readonly Word[], { from, to }: Stretch): [string, string] {
  const middle = (word: Word): Frames => (word.from + word.to) / 2
  const before = words.findLast((word) => middle(word) < from)
  const after = words.find((word) => middle(word) > to)
  return [before ? bare(before.text) : '', after ? bare(after.text) : '']
}
