import { log2 } from '../sound/elementary'
import { factor } from '../sound/level'
import { RATE, type Frames } from '../time'

/** Levels of a run over time, and gains over time that are worked out of them. */

/** Frames of one look: 20 ms. */
export const LOOK: Frames = RATE / 50
const DB_PER_DOUBLING = 3.010299956639812
const SILENT = 1e-12

/** Mean squares of a run, look by look; the last one may be shorter. */
export function squaresOf(samples: Float64Array): Float64Array {
  return Float64Array.from({ length: Math.ceil(samples.length / LOOK) }, (_, look) => {
    const to = Math.min(samples.length, (look + 1) * LOOK)
    let sum = 0
    for (let i = look * LOOK; i < to; i++) sum += samples[i] * samples[i]
    return sum / (to - look * LOOK)
  })
}

/** The level of a mean square, in dBFS. */
export const levelOf = (square: number): number => DB_PER_DOUBLING * log2(square + SILENT)

/** Weights of a raised cosine, so many looks to either side; by a parabola's square, which takes no cosine. */
function bell(reach: number): Float64Array {
  return Float64Array.from({ length: 2 * reach + 1 }, (_, i) => {
    const t = (i - reach) / (reach + 1)
    return (1 - t * t) ** 2
  })
}

/**
 * The mean of values around each look, weighed by a bell and by a weight of their own; `still`: so much weight has a 0 beside them, so
 * that it comes back to it where there are none.
 */
export function smoothed(values: Float64Array, weights: Float64Array, reach: number, still = 0): Float64Array {
  const shape = bell(reach)
  return values.map((_, look) => {
    let sum = 0
    let weight = still
    for (let k = Math.max(0, look - reach); k <= Math.min(values.length - 1, look + reach); k++) {
      const own = shape[k - look + reach] * weights[k]
      sum += own * values[k]
      weight += own
    }
    return weight > 0 ? sum / weight : 0
  })
}

/** Turns a run in place by gains in dB, each in the middle of its look, straight from one to the next. */
export function turn(samples: Float64Array, gains: Float64Array): void {
  if (gains.every((gain) => gain === 0)) return
  const factors = gains.map(factor)
  const last = factors.length - 1
  // from the middle of one look to that of the next; before the first and behind the last the gain stays
  for (let look = -1; look <= last; look++) {
    const from = (look + 0.5) * LOOK
    const start = factors[Math.max(0, look)]
    const growth = (factors[Math.min(last, look + 1)] - start) / LOOK
    const to = Math.min(samples.length, from + LOOK)
    for (let i = Math.max(0, from); i < to; i++) samples[i] *= start + (i - from + 0.5) * growth
  }
}
