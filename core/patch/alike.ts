import type { Stretch } from '../time'
import { BANDS, HOP, type Looks } from './sound'

/**
 * How alike two looks are where the one may be spoilt. What covers it only adds to its sound, so of
 * what is looked for no band can have been louder than what is heard there: "bounded" matching of
 * missing data (Cooke, Green, Josifovski and Vizinho, 2001).
 */

/** What tells two sounds apart in one band is enough at this many dB. */
const MOST = 25
/** What is spoilt tells this much of what is softer there than what is heard. */
const BELOW = 0.06
/** A band is spoilt where it is so many dB louder than it gets on the tape but rarely. */
const RARELY = 0.97
const OVER = 2
/** Sound is lost where it is as silent as this, in dB. */
const LOST = -84

/** What became of the looks of a spot, and of which of their bands. */
export interface Spoilt {
  first: number
  last: number
  bands: readonly boolean[]
  /** There is nothing to be heard in it. */
  lost: boolean
}

export function spoiltBy(looks: Looks, { from, to }: Stretch): Spoilt {
  const first = Math.max(0, Math.floor(from / HOP))
  const last = Math.min(looks.count - 1, Math.ceil(to / HOP))
  const inSpot = (band: number) => Array.from({ length: last - first + 1 }, (_, i) => looks.values[(first + i) * BANDS + band])
  const usual = (band: number) => {
    const some: number[] = []
    for (let look = 0; look < looks.count; look += 5) if (look < first || look > last) some.push(looks.values[look * BANDS + band])
    return some.sort((a, b) => a - b)[Math.floor(some.length * RARELY)] ?? 0
  }
  const bands = Array.from({ length: BANDS }, (_, band) => Math.max(...inSpot(band)) > usual(band) + OVER)
  return {
    first,
    last,
    // what covers a third of them reaches into the rest
    bands: bands.filter(Boolean).length > BANDS / 3 ? bands.map(() => true) : bands,
    lost: inSpot(BANDS >> 1).some((value) => value < LOST),
  }
}

/** How much it counts that all of a look is louder or softer, where it is not spoilt. */
const LEVEL = 0.15

/** Mean difference in dB of a look that is sought and one that is found; null where the first tells nothing. */
export function unlike({ values }: Looks, spoilt: Spoilt, i: number, j: number): number | null {
  const inSpot = i >= spoilt.first && i <= spoilt.last
  if (inSpot && spoilt.lost) return null
  const [a, b] = [i * BANDS, j * BANDS]
  let level = 0
  let clear = 0
  for (let band = 0; band < BANDS; band++)
    if (!inSpot || !spoilt.bands[band]) {
      level += values[b + band] - values[a + band]
      clear++
    }
  if (clear) level /= clear
  let sum = 0
  for (let band = 0; band < BANDS; band++) {
    const over = values[b + band] - values[a + band] - level
    const apart = over > 0 ? over : inSpot && spoilt.bands[band] ? -over * BELOW : -over
    sum += apart > MOST ? MOST : apart
  }
  return sum / BANDS + LEVEL * Math.min(MOST, Math.abs(level))
}
