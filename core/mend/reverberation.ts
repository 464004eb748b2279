import { RATE } from '../time'
import { solveHermitian, type Complex } from './hermitian'
import { BINS, HOP, SIZE, soundOf, spectraOf } from './spectra'

/**
 * Late reverberation down, early sound kept. In each bin of the spectrum a frame is foretold from frames that lie a twentieth of a
 * second and more before it; what can be foretold so is the room that still rings, and is subtracted (weighted prediction error:
 * Nakatani, Yoshioka, Kinoshita, Miyoshi and Juang 2010). How the room decays is told by that itself. The weights are the power of
 * what is left, so it is worked out twice.
 */
export interface Reverberation {
  kind: 'reverberation'
  /** How long the room rings, in seconds (to 60 dB down): so far back it is looked for, as far as it can be heard. */
  seconds: number
}

/** What lies nearer than this belongs to the early sound: 64 ms, in frames of spectra. */
const EARLY = 3
/** So much of the decay is foretold: it has fallen by 20 dB then. */
const HEARD = 1 / 3
const ROUNDS = 2
/** Rooms ring little above, and voices say little there. */
const HIGHEST_HERTZ = 8000
/** No frame weighs more than one this far below the mean of its bin, as a share. */
const LEAST_SHARE = 1e-4
const SILENT = 1e-12

/** Takes late reverberation out of a run in place. */
export function drier({ seconds }: Reverberation, samples: Float64Array): void {
  const spectra = spectraOf(samples)
  const taps = Math.max(4, Math.round((seconds * HEARD * RATE) / HOP))
  for (let bin = 1; bin < (HIGHEST_HERTZ * SIZE) / RATE; bin++) {
    const heard = columnOf(spectra.values, spectra.frames, bin)
    const left = { re: heard.re.slice(), im: heard.im.slice() }
    for (let round = 0; round < ROUNDS; round++) foretell(heard, left, taps)
    for (let frame = 0; frame < spectra.frames; frame++) {
      spectra.values[2 * (frame * BINS + bin)] = left.re[frame]
      spectra.values[2 * (frame * BINS + bin) + 1] = left.im[frame]
    }
  }
  soundOf(spectra, new Float32Array(spectra.frames * BINS).fill(1), samples)
}

/** One bin of all frames. */
function columnOf(values: Float64Array, frames: number, bin: number): Complex {
  const [re, im] = [new Float64Array(frames), new Float64Array(frames)]
  for (let frame = 0; frame < frames; frame++) {
    re[frame] = values[2 * (frame * BINS + bin)]
    im[frame] = values[2 * (frame * BINS + bin) + 1]
  }
  return { re, im }
}

/** Foretells what is heard, weighed by what was left, and leaves what could not be foretold. */
function foretell(heard: Complex, left: Complex, taps: number): void {
  const { covariance, pull } = weighed(heard, weightsOf(left), taps)
  let trace = 0
  for (let i = 0; i < taps; i++) trace += covariance.re[i * taps + i]
  for (let i = 0; i < taps; i++) covariance.re[i * taps + i] += (trace / taps) * 1e-3 + SILENT
  solveHermitian(covariance, pull, taps)
  for (let frame = 0; frame < heard.re.length; frame++) {
    let re = heard.re[frame]
    let im = heard.im[frame]
    for (let i = 0; i < taps && frame - EARLY - i >= 0; i++) {
      const at = frame - EARLY - i
      re -= pull.re[i] * heard.re[at] - pull.im[i] * heard.im[at]
      im -= pull.re[i] * heard.im[at] + pull.im[i] * heard.re[at]
    }
    left.re[frame] = re
    left.im[frame] = im
  }
}

/** One over the power of each frame and its neighbours. */
function weightsOf({ re, im }: Complex): Float64Array {
  const power = re.map((value, frame) => value * value + im[frame] * im[frame])
  const least = Math.max(SILENT, (LEAST_SHARE * power.reduce((a, b) => a + b, 0)) / power.length)
  return power.map((value, frame) => {
    const around = ((power[frame - 1] ?? value) + value + (power[frame + 1] ?? value)) / 3
    return 1 / Math.max(least, around)
  })
}

/** How alike earlier frames are to each other (the lower half), and to the one that is foretold. */
function weighed({ re, im }: Complex, weights: Float64Array, taps: number): { covariance: Complex; pull: Complex } {
  const covariance = { re: new Float64Array(taps * taps), im: new Float64Array(taps * taps) }
  const pull = { re: new Float64Array(taps), im: new Float64Array(taps) }
  for (let frame = EARLY + taps - 1; frame < re.length; frame++)
    for (let i = 0; i < taps; i++) {
      const at = frame - EARLY - i
      const x = weights[frame] * re[at]
      const y = weights[frame] * im[at]
      pull.re[i] += x * re[frame] + y * im[frame]
      pull.im[i] += x * im[frame] - y * re[frame]
      const row = i * taps
      for (let j = 0; j <= i; j++) {
        const other = frame - EARLY - j
        covariance.re[row + j] += x * re[other] + y * im[other]
        covariance.im[row + j] += x * im[other] - y * re[other]
      }
    }
  return { covariance, pull }
}
