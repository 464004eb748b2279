import { cosine, sine } from '../sound/elementary'
import { RATE } from '../time'

/**
 * Mains hum and its harmonics, taken out by what they are: tones that hold their height and phase for seconds. Each is measured in
 * frames of an eighth of a second (complex demodulation), over two and a half seconds to either side, where a frame counts the more
 * the less else sounds right beside that tone: so it is told where no voice lies upon it, and speech is left alone. What is measured
 * is subtracted, so nothing rings. The frequency is told by how the phases of all advance from frame to frame.
 */
export interface Hum {
  kind: 'hum'
  mains: 50 | 60
  /** How many harmonics go, the mains itself among them. */
  harmonics: number
}

const FRAME = RATE / 8
/** So many frames to either side count. */
const AROUND = 20
const TWO_PI = 6.283185307179586
/** The mains are held to far better than this, in Hz. */
const MOST_DRIFT = 0.5
/** Frequencies are told to this, in Hz: engines agree on less than the last bit of an angle. */
const STEP = 0.001

/** A tone of less power than this is digital silence: it tells nothing. */
const SILENT = 1e-16
/** What else sounds is looked for so far beside a tone, in Hz: beyond the window's own width. */
const BESIDE = 18
/** A tone has to stand this many times above what chance would give, or less of it goes. */
const CHANCE = 2
/** So many tones tell how far off the mains are: of higher ones the phase may turn more than once between two frames. */
const MOST_FOR_DRIFT = 7

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
  const low = lowRateOf(samples, frames)
  const drift = driftOf(low, mains, harmonics)
  const tones = Array.from({ length: harmonics }, (_, k) => (k + 1) * (mains + drift)).filter((hertz) => hertz < HIGHEST)
  // all are measured in what was there, then go
  const found = tones.map((hertz) => ({ hertz, heights: steadied(readings(low, hertz)) }))
  for (const { hertz, heights } of found) subtract(samples, hertz, heights)
}

/** Hum is low: it is measured in every eighth sample of what two means of eight, one after the other, let through. */
const FEWER = 8
const LOW_FRAME = FRAME / FEWER
/** Above this too much would fold into what is measured. */
const HIGHEST = 2450

function lowRateOf(samples: Float64Array, frames: number): Float64Array {
  const low = new Float64Array(frames * LOW_FRAME)
  for (let m = 0; m < low.length; m++) {
    let sum = 0
    for (let j = m === 0 ? 0 : 1 - FEWER; j < FEWER; j++) sum += (FEWER - (j < 0 ? -j : j)) * samples[m * FEWER + j]
    low[m] = sum / (FEWER * FEWER)
  }
  return low
}

/** How much of a tone the two means let through. */
function passed(hertz: number): number {
  const half = (TWO_PI * hertz) / RATE / 2
  return (sine(FEWER * half) / (FEWER * sine(half))) ** 2
}

/** Turns through an angle by recurrence: the same bits everywhere. */
function turner(hertz: number, samples = 1) {
  const step = ((TWO_PI * hertz) / RATE) * samples
  return { cos: cosine(step), sin: sine(step) }
}

/** A tone in each frame; a frame counts the more the less else sounds right beside it. */
function readings(low: Float64Array, hertz: number): Reading[] {
  const own = heightsAt(low, hertz)
  const [below, above] = [heightsAt(low, hertz - BESIDE), heightsAt(low, hertz + BESIDE)]
  const power = ({ re, im }: Height): number => re * re + im * im
  return own.map((height, frame) => {
    const beside = power(below[frame]) + power(above[frame])
    return { ...height, weight: power(height) + beside < SILENT ? 0 : 1 / (beside + SILENT) }
  })
}

interface Height {
  re: number
  im: number
}

function heightsAt(low: Float64Array, hertz: number): Height[] {
  const { cos, sin } = turner(hertz, FEWER)
  const scale = 2 / (LOW_FRAME / 2) / passed(hertz)
  const wave = windowedWave(cos, sin)
  // each frame is measured from its own beginning, then turned back by what the tone has gone through until there
  let [c, s] = [1, 0]
  return Array.from({ length: low.length / LOW_FRAME }, (_, frame) => {
    const { re, im } = heightIn(low, frame * LOW_FRAME, wave)
    const height = { re: (re * c - im * s) * scale, im: (im * c + re * s) * scale }
    const turned = c * wave.cos - s * wave.sin
    s = s * wave.cos + c * wave.sin
    c = turned
    return height
  })
}

/** A tone over one frame, times a Hann window, so that what lies beside does not leak in; and its turn back over a whole frame. */
function windowedWave(cos: number, sin: number) {
  const re = new Float64Array(LOW_FRAME)
  const im = new Float64Array(LOW_FRAME)
  let [c, s] = [1, 0]
  for (let k = 0; k < LOW_FRAME; k++) {
    re[k] = c * HANN[k]
    im[k] = -s * HANN[k]
    const turned = c * cos - s * sin
    s = s * cos + c * sin
    c = turned
  }
  return { re, im, cos: c, sin: -s }
}

function heightIn(low: Float64Array, from: number, wave: { re: Float64Array; im: Float64Array }): Height {
  let re = 0
  let im = 0
  for (let k = 0; k < LOW_FRAME; k++) {
    const value = low[from + k]
    re += value * wave.re[k]
    im += value * wave.im[k]
  }
  return { re, im }
}

const HANN = Float64Array.from({ length: LOW_FRAME }, (_, k) => {
  const half = sine((TWO_PI * (k + 0.5)) / LOW_FRAME / 2)
  return half * half
})

/** How far off the mains are, in Hz: by how the phases of all tones advance, where they do so alike. */
function driftOf(low: Float64Array, mains: number, harmonics: number): number {
  let [sum, weights] = [0, 0]
  for (let k = 1; k <= Math.min(MOST_FOR_DRIFT, harmonics); k++) {
    const all = readings(low, mains * k)
    let [re, im, power] = [0, 0, 0]
    for (let frame = 1; frame < all.length; frame++) {
      const [a, b] = [all[frame - 1], all[frame]]
      const weight = Math.min(a.weight, b.weight)
      re += weight * (a.re * b.re + a.im * b.im)
      im += weight * (a.re * b.im - a.im * b.re)
      power += weight * (a.re * a.re + a.im * a.im + b.re * b.re + b.im * b.im)
    }
    if (power === 0) continue
    // 1 where all advance alike, small where it is chance; a higher tone tells it the more closely
    const alike = (2 * Math.sqrt(re * re + im * im)) / power
    const weight = (k * alike ** 4) / (1.0001 - Math.min(1, alike))
    sum += (weight * Math.atan2(im, re)) / (TWO_PI * k * (FRAME / RATE))
    weights += weight
  }
  const drift = weights ? sum / weights : 0
  return Math.abs(drift) > MOST_DRIFT ? 0 : Math.round(drift / STEP) * STEP
}

/** Readings over several frames, each counted by its weight; what may as well be chance is left in. */
function steadied(all: readonly Reading[]): Reading[] {
  return all.map((_, at) => {
    const around = all.slice(Math.max(0, at - AROUND), at + AROUND + 1)
    const weight = around.reduce((sum, one) => sum + one.weight, 0)
    if (!weight) return { re: 0, im: 0, weight }
    const re = around.reduce((sum, one) => sum + one.weight * one.re, 0) / weight
    const im = around.reduce((sum, one) => sum + one.weight * one.im, 0) / weight
    // how far the mean itself may be off, squared
    const off = around.reduce((sum, one) => sum + one.weight ** 2 * ((one.re - re) ** 2 + (one.im - im) ** 2), 0) / weight ** 2
    const sure = Math.max(0, 1 - (CHANCE * off) / (re * re + im * im + SILENT))
    return { re: sure * re, im: sure * im, weight }
  })
}

/** A tone is turned on from one sample to the next by a table of so many, then as a whole. */
const TURNS = 60

/** Subtracts a tone whose height and phase go straight from the middle of one frame to the middle of the next. */
function subtract(samples: Float64Array, hertz: number, heights: readonly Reading[]): void {
  const { cos, sin } = turner(hertz)
  const re = new Float64Array(TURNS + 1)
  const im = new Float64Array(TURNS + 1)
  re[0] = 1
  for (let k = 0; k < TURNS; k++) {
    re[k + 1] = re[k] * cos - im[k] * sin
    im[k + 1] = im[k] * cos + re[k] * sin
  }
  let [c, s] = [1, 0]
  for (let from = 0; from < samples.length; from += TURNS) {
    const { height, growth } = heightAt(heights, from)
    // both as the tone has turned until here
    const a = height.re * c - height.im * s
    const b = height.im * c + height.re * s
    const growA = growth.re * c - growth.im * s
    const growB = growth.im * c + growth.re * s
    const count = Math.min(TURNS, samples.length - from)
    for (let k = 0; k < count; k++) samples[from + k] -= (a + k * growA) * re[k] - (b + k * growB) * im[k]
    const turned = c * re[TURNS] - s * im[TURNS]
    s = s * re[TURNS] + c * im[TURNS]
    c = turned
  }
}

/** The height of a tone at a sample, and by how much it grows to the next; before the first middle and after the last it stays. */
function heightAt(heights: readonly Reading[], at: number): { height: Height; growth: Height } {
  const part = Math.floor((at + FRAME / 2) / FRAME)
  const a = heights[Math.min(heights.length - 1, Math.max(0, part - 1))]
  const b = heights[Math.min(heights.length - 1, part)]
  const growth = { re: (b.re - a.re) / FRAME, im: (b.im - a.im) / FRAME }
  const into = at - (part * FRAME - FRAME / 2)
  return { height: { re: a.re + into * growth.re, im: a.im + into * growth.im }, growth }
}
