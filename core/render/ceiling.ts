import { milliseconds, type Frames } from '../time'
import { factor } from '../sound/level'
import { BESIDE, MOST_GAIN, peakBeside } from './peakBeside'
import type { Stage } from './stage'

/** The gain begins to fall so long before a peak, and is back so long after it. */
const LOOK: Frames = milliseconds(2.5)

/** A stretch of so many frames without a high sample is passed over at once. */
const WINDOW: Frames = 64

/** Weights of the mean, largest in the middle: a parabola, which every engine works out to the same bits. */
const WEIGHTS = Float64Array.from({ length: 2 * LOOK + 1 }, (_, i) => 1 - ((i - LOOK) / (LOOK + 1)) ** 2)
const SUM = WEIGHTS.reduce((sum, weight) => sum + weight, 0)

/**
 * Keeps every sample at or below a level, and with `between` the wave between them too: its true peak. The gain that each frame
 * asks for holds for `LOOK` around it; the mean of these, over as long, is a curve that never lies above what any frame asks for.
 * Sound that is low enough is left untouched, to the bit. All channels get the same gain.
 */
export function ceiling(dB: number, between = false): Stage {
  const most = factor(dB)
  const reach = 2 * LOOK
  const margin = between ? BESIDE : 0
  /** Where no sample is higher than this, nothing is asked for. */
  const low = between ? most / MOST_GAIN : most
  let least = 1
  return {
    back: reach + margin,
    ahead: reach + margin,
    get least() {
      return least
    },
    process(mix, out) {
      least = 1
      const count = out[0].length
      for (const [c, channel] of out.entries()) channel.set(mix[c].subarray(reach + margin, reach + margin + count))
      const asked = new Float64Array(count + 2 * reach).fill(1)
      let quiet = true
      for (const channel of mix) {
        for (let from = 0; from < asked.length; from += WINDOW) {
          const end = Math.min(asked.length, from + WINDOW)
          // the wave beside a sample is as high as its neighbours let it be
          if (!isHigher(channel, Math.max(0, from + margin - 1), end + margin + 1, low)) continue
          for (let i = from; i < end; i++) {
            const peak = between ? peakBeside(channel, i + margin, most) : Math.abs(channel[i])
            if (peak <= most) continue
            quiet = false
            if (most / peak < asked[i]) asked[i] = most / peak
          }
        }
      }
      if (quiet) return
      const held = leastAround(asked, LOOK)
      for (let i = 0; i < count; i++) {
        const gain = meanAround(held, i + reach)
        if (gain >= 1) continue
        if (gain < least) least = gain
        for (const channel of out) channel[i] *= gain
      }
    },
  }
}

/** Whether a sample of `[from, to)` is higher than `most`, either way. */
function isHigher(samples: Float32Array, from: number, to: number, most: number): boolean {
  for (let i = from; i < to; i++) if (samples[i] > most || samples[i] < -most) return true
  return false
}

/** The least value within `reach` of each place. */
function leastAround(values: Float64Array, reach: number): Float64Array {
  const least = new Float64Array(values.length).fill(1)
  for (let i = 0; i < values.length; i++) {
    if (values[i] === 1) continue
    const end = Math.min(values.length, i + reach + 1)
    for (let j = Math.max(0, i - reach); j < end; j++) if (values[i] < least[j]) least[j] = values[i]
  }
  return least
}

/** The weighted mean of what lies around a place: exactly 1 if all of it is. */
function meanAround(held: Float64Array, place: number): number {
  let short = 0
  for (let k = 0; k < WEIGHTS.length; k++) short += WEIGHTS[k] * (1 - held[place - LOOK + k])
  return 1 - short / SUM
}
