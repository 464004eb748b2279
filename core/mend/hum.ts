import { cosine, sine } from '../sound/elementary'
import { RATE } from '../time'

/**
 * Mains hum and its harmonics, taken out by what they are: tones that hold their height and phase for seconds. Each is measured in
 * frames of an eighth of a second (complex demodulation), over a second and a half to either side, where a frame counts the more the
 * less else sounds near that tone: so it is told by the pauses, and speech over it is left alone. What is measured is subtracted, so
 * nothing rings. The frequency is told by how the phases of the first harmonics advance from frame to frame.
 */
export interface Hum {
  kind: 'hum'
  mains: 50 | 60
  /** How many harmonics go, the mains itself among them. */
  harmonics: number
}

const FRAME = RATE / 8
/** So many frames to either side count. */
const AROUND = 12
const TWO_PI = 6.283185307179586
/** The mains are held to far better than this, in Hz. */
const MOST_DRIFT = 0.5
/** Frequencies are told to this, in Hz: engines agree on less than the last bit of an angle. */
const STEP = 0.001

/** A frame of less power than this is digital silence: it tells nothing. */
const SILENT = 1e-14

/** One tone in one frame: its height and phase as a complex number, and the power of what else lies near it. */
interface Reading {
  re: number
  im: number
  weight: number
}

/** Takes hum out of a run in place. A run shorter than four frames is left as it is. */
export function withoutHum({ mains, harmonics }: Hum, samples: Float64Array): void {
  const frames = Math.floor(samples.length / FRAME)
  if (frames < 4) return
  const drift = driftOf(samples, frames, mains)
  const tones = Array.from({ length: harmonics }, (_, k) => (k + 1) * (mains + drift)).filter((hertz) => hertz < RATE / 2 - 500)
  // all are measured in what was there, then go
  const found = tones.map((hertz) => ({ hertz, heights: steadied(readings(samples, frames, hertz)) }))
  for (const { hertz, heights } of found) subtract(samples, hertz, heights)
}

/** Turns through an angle at each frame by recurrence: the same bits everywhere. */
function turner(hertz: number) {
  const step = (TWO_PI * hertz) / RATE
  return { cos: cosine(step), sin: sine(step) }
}

function readings(samples: Float64Array, frames: number, hertz: number): Reading[] {
  const { cos, sin } = turner(hertz)
  let [c, s] = [1, 0]
  return Array.from({ length: frames }, (_, frame) => {
    let [re, im, power, last] = [0, 0, 0, 0]
    const from = frame * FRAME
    for (let i = from; i < from + FRAME; i++) {
      // a Hann window, so that what lies beside does not leak in
      const window = hannAt(i - from)
      re += samples[i] * window * c
      im -= samples[i] * window * s
      // the power of the slope: speech weighs more in it than hum, which is low
      power += (samples[i] - last) ** 2
      last = samples[i]
      const turned = c * cos - s * sin
      s = s * cos + c * sin
      c = turned
    }
    const scale = 2 / (FRAME / 2)
    return { re: re * scale, im: im * scale, weight: power / FRAME < SILENT ? 0 : 1 / (power / FRAME) ** 2 }
  })
}

const HANN = Float64Array.from({ length: FRAME }, (_, i) => {
  const half = sine((TWO_PI * (i + 0.5)) / FRAME / 2)
  return half * half
})
const hannAt = (i: number): number => HANN[i]

/** How far off the mains are, in Hz. */
function driftOf(samples: Float64Array, frames: number, mains: number): number {
  let [sum, weights] = [0, 0]
  for (let k = 1; k <= 3; k++) {
    const all = readings(samples, frames, mains * k)
    let [re, im] = [0, 0]
    for (let frame = 1; frame < frames; frame++) {
      const [a, b] = [all[frame - 1], all[frame]]
      const weight = Math.min(a.weight, b.weight)
      re += weight * (a.re * b.re + a.im * b.im)
      im += weight * (a.re * b.im - a.im * b.re)
    }
    const height = Math.sqrt(re * re + im * im)
    // the readings turn with the tone, so what is left is how far it is off
    sum += (height * Math.atan2(im, re)) / (TWO_PI * k * (FRAME / RATE))
    weights += height
  }
  const drift = weights ? sum / weights : 0
  return Math.abs(drift) > MOST_DRIFT ? 0 : Math.round(drift / STEP) * STEP
}

/** Readings over several frames, each counted by its weight. */
function steadied(all: readonly Reading[]): Reading[] {
  return all.map((_, at) => {
    let [re, im, weight] = [0, 0, 0]
    for (let k = Math.max(0, at - AROUND); k <= Math.min(all.length - 1, at + AROUND); k++) {
      re += all[k].weight * all[k].re
      im += all[k].weight * all[k].im
      weight += all[k].weight
    }
    return weight ? { re: re / weight, im: im / weight, weight } : { re: 0, im: 0, weight }
  })
}

/** Subtracts a tone whose height and phase go straight from the middle of one frame to the middle of the next. */
function subtract(samples: Float64Array, hertz: number, heights: readonly Reading[]): void {
  const { cos, sin } = turner(hertz)
  let [c, s] = [1, 0]
  for (let i = 0; i < samples.length; i++) {
    const place = i / FRAME - 0.5
    const first = Math.max(0, Math.min(heights.length - 1, Math.floor(place)))
    const next = Math.min(heights.length - 1, first + 1)
    const share = Math.max(0, Math.min(1, place - first))
    const re = heights[first].re + share * (heights[next].re - heights[first].re)
    const im = heights[first].im + share * (heights[next].im - heights[first].im)
    samples[i] -= re * c - im * s
    const turned = c * cos - s * sin
    s = s * cos + c * sin
    c = turned
  }
}
