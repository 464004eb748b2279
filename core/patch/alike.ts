import type { Stretch } from '../time'
import { BANDS, PATCH_STEP, type Looks } from './sound'

/**
 * How alike two looks are where the one may be spoilt. What covers it only adds to its sound, so of
 * what is looked for no band can have been louder than what is heard there: "bounded" matching of
 * missing data (Cooke, Green, Josifovski and Vizinho, 2001).
 */

/** A difference in one band counts up to this, in dB. */
const MOST = 25
/** Weight of a covered band in which the candidate is softer than what covers it. */
const BELOW = 0.06
/** A band is spoilt where it is so many dB louder than it gets on the tape but rarely. */
const RARELY = 0.97
const OVER = 2
/** So many looks of a long tape tell how loud it gets. */
const HEARD = 5000
/** Sound is lost where it is as silent as this, in dB. */
const LOST = -84

/** What became of the looks of a spot, and of which of their bands. */
export interface Spoilt {
  first: number
  last: number
  bands: readonly boolean[]
  /** Nothing is audible in it. */
  lost: boolean
}

export function spoiltBy(looks: Looks, { from, to }: Stretch): Spoilt {
  const first = Math.max(0, Math.floor(from / PATCH_STEP))
  const last = Math.min(looks.count - 1, Math.ceil(to / PATCH_STEP))
  const inSpot = (band: number) => Array.from({ length: last - first + 1 }, (_, i) => looks.values[(first + i) * BANDS + band])
  const step = Math.max(5, Math.floor(looks.count / HEARD))
  const usual = (band: number) => {
    const some: number[] = []
    for (let look = 0; look < looks.count; look += step) if (look < first || look > last) some.push(looks.values[look * BANDS + band])
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

/** Compares looks of a tape with some of them that are sought. */
export class Alike {
  private readonly values: Float32Array
  private readonly meansOfAll: Float32Array
  private readonly lost: (row: number) => boolean
  /** Looks that some of what spoils the spot covers: 1. */
  private readonly covered: Uint8Array
  /** Bands that are clear where some are spoilt, and how much it counts in each that there is less of it. */
  private readonly clear: number[]
  private readonly below: Float64Array
  /** What is sought: the mean of the clear bands of each look, and by how much each band is above it. */
  private readonly means: Float64Array
  private readonly above: Float64Array

  /** `rows` looks are sought, from look `first` of the tape on. */
  constructor(looks: Looks, spoilt: Spoilt, first: number, rows: number) {
    this.values = looks.values
    this.meansOfAll = looks.means
    const inSpot = (row: number) => first + row >= spoilt.first && first + row <= spoilt.last
    this.lost = (row) => spoilt.lost && inSpot(row)
    const some = spoilt.bands.some(Boolean)
    this.covered = Uint8Array.from({ length: rows }, (_, row) => (some && inSpot(row) ? 1 : 0))
    this.clear = Array.from(spoilt.bands.keys()).filter((band) => !spoilt.bands[band])
    this.below = Float64Array.from(spoilt.bands, (bad) => (bad ? BELOW : 1))
    this.means = Float64Array.from({ length: rows }, (_, row) =>
      this.covered[row] ? this.meanOfClear(first + row) : looks.means[first + row],
    )
    this.above = Float64Array.from({ length: rows * BANDS }, (_, i) => looks.values[first * BANDS + i] - this.means[Math.floor(i / BANDS)])
  }

  /** Whether a look that is sought tells anything. */
  tells(row: number): boolean {
    return !this.lost(row)
  }

  /** Mean difference in dB of a look that is sought and one of the tape. */
  unlike(row: number, look: number): number {
    return this.covered[row] ? this.underWhatCovers(row, look) : this.inTheClear(row, look)
  }

  private inTheClear(row: number, look: number): number {
    const { values, above } = this
    const a = row * BANDS
    const b = look * BANDS
    const mean = this.meansOfAll[look]
    let sum = 0
    for (let band = 0; band < BANDS; band++) sum += Math.min(MOST, Math.abs(values[b + band] - mean - above[a + band]))
    return sum / BANDS + LEVEL * Math.min(MOST, Math.abs(mean - this.means[row]))
  }

  private underWhatCovers(row: number, look: number): number {
    const { values, above, below } = this
    const a = row * BANDS
    const b = look * BANDS
    const mean = this.meanOfClear(look)
    let sum = 0
    for (let band = 0; band < BANDS; band++) {
      const over = values[b + band] - mean - above[a + band]
      sum += Math.min(MOST, over > 0 ? over : -over * below[band])
    }
    return sum / BANDS + LEVEL * Math.min(MOST, Math.abs(mean - this.means[row]))
  }

  private meanOfClear(look: number): number {
    let sum = 0
    for (const band of this.clear) sum += this.values[look * BANDS + band]
    return this.clear.length ? sum / this.clear.length : 0
  }
}
