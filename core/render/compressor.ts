import { exp2, log2 } from '../sound/elementary'
import { factor } from '../sound/level'
import { milliseconds, type Frames } from '../time'
import type { Stage } from './stage'

/** The level is that of so long on either side of a frame, and the gain glides twice over so long on either side. */
const HALF: Frames = milliseconds(25)
const GLIDE: Frames = milliseconds(20)
/** Powers and gains are summed as whole numbers of this, so that a sum is the same bits wherever it begins. */
const UNIT = 2 ** 26
/** No power counts for more than this: 15 dB over full scale, the most that fits. */
const MOST = 2 ** 31 - 1

/**
 * Turns down what is louder than a level for longer than a syllable's peak: `ratio` dB more come out as 1. The level (`dB`, of the root
 * mean square over 50 ms, in dBFS) and the gain are means over windows around each frame, so it looks no further than these; what is
 * softer is left untouched, to the bit. All channels get the same gain. A mono mix counts as it is heard, on both sides.
 */
export function compressor(dB: number, ratio: number): Stage {
  const most = factor(dB) * factor(dB)
  const reach = HALF + 2 * GLIDE
  const slope = -(1 - 1 / ratio) / 2
  let least = 1
  return {
    back: reach,
    ahead: reach,
    get least() {
      return least
    },
    process(mix, out) {
      least = 1
      const count = out[0].length
      for (const [c, channel] of out.entries()) channel.set(mix[c].subarray(reach, reach + count))
      if (!reaches(mix, most)) return
      const asked = boxSums(powersOf(mix), HALF)
      const loud = (2 * HALF + 1) * UNIT * most
      let idle = true
      for (let i = 0; i < asked.length; i++) {
        if (asked[i] <= loud) asked[i] = 0
        else {
          asked[i] = ((1 - exp2(slope * log2(asked[i] / loud))) * UNIT) | 0
          idle = false
        }
      }
      if (idle) return
      const once = boxSums(asked, GLIDE)
      for (let i = 0; i < once.length; i++) once[i] = (once[i] / (2 * GLIDE + 1)) | 0
      const gains = boxSums(once, GLIDE)
      for (let i = 0; i < count; i++) {
        const gain = 1 - gains[i] / (2 * GLIDE + 1) / UNIT
        if (gain === 1) continue
        if (gain < least) least = gain
        for (const channel of out) channel[i] *= gain
      }
    },
  }
}

/** Whether any sample is so loud that a mean around it could be. */
function reaches(mix: readonly Float32Array[], power: number): boolean {
  const least = Math.sqrt(power)
  for (const channel of mix) for (let i = 0; i < channel.length; i++) if (channel[i] > least || channel[i] < -least) return true
  return false
}

/** The power of each frame, the mean of its channels, in units. */
function powersOf(mix: readonly Float32Array[]): Float64Array {
  const scale = UNIT / mix.length
  const powers = new Float64Array(mix[0].length)
  for (const channel of mix) for (let i = 0; i < powers.length; i++) powers[i] += Math.min(MOST, channel[i] * channel[i] * scale) | 0
  return powers
}

/** Sums over `half` on either side of each value that has so many there. */
function boxSums(values: Float64Array, half: Frames): Float64Array {
  const sums = new Float64Array(values.length - 2 * half)
  let sum = 0
  for (let i = 0; i < 2 * half; i++) sum += values[i]
  for (let i = 0; i < sums.length; i++) {
    sum += values[i + 2 * half]
    sums[i] = sum
    sum -= values[i]
  }
  return sums
}
