import { exp2 } from '../sound/elementary'
import { BINS } from './spectra'

/**
 * Noise as it changes, told from the power of a voice in it: in each bin it is followed where speech is unlikely (Gerkmann and
 * Hendriks 2012, with a fixed share of speech), once forwards and once backwards, and lies between the two.
 */

/** The power of the noise in each bin of each frame. */
export function followNoise(power: Float64Array, frames: number): Float64Array {
  const start = quietOf(power, frames)
  const there = followed(power, frames, start, false)
  const back = followed(power, frames, start, true)
  for (let i = 0; i < there.length; i++) there[i] = Math.sqrt(there[i] * back[i])
  return there
}

/** Speech is taken to be so many times the noise where there is any: 15 dB. */
const SHARE = 31.6
/** How much of the noise of the frame before is kept. */
const KEPT = 0.8
/** Where speech has been likely for long, a little is learnt all the same, or a louder noise would never be. */
const [SURE, LONG] = [0.99, 0.9]
const LOG2_E = 1.4426950408889634
/** The fifth part of exponentially distributed power lies at so much of its mean. */
const FIFTH = 0.223
const SILENT = 1e-12

/** The quiet end of what is heard in each bin. */
function quietOf(power: Float64Array, frames: number): Float64Array {
  return Float64Array.from({ length: BINS }, (_, bin) => {
    const heard = Float64Array.from({ length: Math.ceil(frames / 4) }, (__, k) => power[4 * k * BINS + bin]).sort()
    return Math.max(SILENT, heard[Math.floor(heard.length / 5)] / FIFTH)
  })
}

function followed(power: Float64Array, frames: number, start: Float64Array, backwards: boolean): Float64Array {
  const out = new Float64Array(power.length)
  const now = start.slice()
  const likely = new Float64Array(BINS).fill(0.5)
  for (let k = 0; k < frames; k++) {
    const at = (backwards ? frames - 1 - k : k) * BINS
    for (let bin = 0; bin < BINS; bin++) {
      const over = Math.min(100, ((power[at + bin] / now[bin]) * SHARE) / (1 + SHARE))
      let speech = 1 / (1 + (1 + SHARE) * exp2(-over * LOG2_E))
      likely[bin] = LONG * likely[bin] + (1 - LONG) * speech
      if (likely[bin] > SURE) speech = Math.min(speech, SURE)
      const heard = speech * now[bin] + (1 - speech) * power[at + bin]
      now[bin] = Math.max(SILENT, KEPT * now[bin] + (1 - KEPT) * heard)
      out[at + bin] = now[bin]
    }
  }
  return out
}
