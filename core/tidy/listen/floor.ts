import { BAND_BINS, BANDS, type Looks } from './looks'

/** How far each look stands above the room, band by band: the room is learnt anew as the tape goes on. */

/** The room is looked for within so many looks on either side, and anew every so many. */
const AROUND = 400
const STEP = 50
/** A level that a fifth of the looks around lie below, in half decibels from -130 dBFS on. */
const SHARE = 0.2
const [DEEPEST, PER_DB, SIZE] = [-130, 2, 300]
/** A fifth of a bell curve lies below its middle less so many spreads. */
const BELOW_MIDDLE = 0.84
/** A look is smoothed with its neighbours. */
const WEIGHTS = [0.25, 0.5, 0.25]

/** How far the levels of a steady noise stray in a band, in dB: the fewer bins and looks are added up, the more. */
const STRAYS = BAND_BINS.map((bins) => 4.34 / Math.sqrt(1 + bins * 0.9))

export interface OverRoom {
  /** `BANDS` values a look: dB above the room, smoothed over three looks. */
  over: Float32Array
  /** dB above the room that all bands have together, where they have any; a room alone stays below 1. */
  sum: Float32Array
}

const cellOf = (dB: number): number => Math.max(0, Math.min(SIZE - 1, Math.round((dB - DEEPEST) * PER_DB)))

export function overRoom({ bands, count }: Looks): OverRoom {
  const over = new Float32Array(count * BANDS)
  const sum = new Float32Array(count)
  const cells = new Int32Array(SIZE)
  const smooth = new Float32Array(count)
  for (let band = 0; band < BANDS; band++) {
    for (let i = 0; i < count; i++) {
      let level = 0
      for (let k = -1; k <= 1; k++) level += WEIGHTS[k + 1] * bands[Math.max(0, Math.min(count - 1, i + k)) * BANDS + band]
      smooth[i] = level
    }
    cells.fill(0)
    let [first, last] = [0, 0]
    for (let begin = 0; begin < count; begin += STEP) {
      const [low, high] = [Math.max(0, begin - AROUND), Math.min(count, begin + STEP + AROUND)]
      for (; last < high; last++) cells[cellOf(smooth[last])]++
      for (; first < low; first++) cells[cellOf(smooth[first])]--
      let [cell, below] = [0, 0]
      while (below + cells[cell] < SHARE * (last - first)) below += cells[cell++]
      const room = DEEPEST + cell / PER_DB + BELOW_MIDDLE * STRAYS[band]
      const end = Math.min(count, begin + STEP)
      for (let i = begin; i < end; i++) {
        const above = smooth[i] - room
        over[i * BANDS + band] = above
        sum[i] += Math.max(0, above - 1.5 * STRAYS[band]) / BANDS
      }
    }
  }
  return { over, sum }
}
