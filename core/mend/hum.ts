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
  const waves = tones.map((hertz) => new Wave(hertz, steadied(readings(low, hertz))))
  for (let k = 0; k < waves.length; k += 3) subtract(samples, waves[k], waves[k + 1] ?? SILENCE, waves[k + 2] ?? SILENCE)
}

/** Hum is low: it is measured in every eighth sample of what two means of eight, one after the other, let through. */
const FEWER = 8
const LOW_FRAME = FRAME / FEWER
/** Above this too much would fold into what is measured. */
const HIGHEST = 2450

function lowRateOf(samples: Float64Array, frames: number): Float64Array {
  const low = new Float64Array(frames * LOW_FRAME)
  // two means, one after the other, weigh samples by a triangle: it rises over one eight and falls over the next
  let rising = 0
  for (let m = 0; m < low.length; m++) {
    let all = 0
    let later = 0
    for (let j = 0; j < FEWER; j++) {
      const value = samples[m * FEWER + j]
      all += value
      later += j * value
    }
    low[m] = (rising + FEWER * all - later) / (FEWER * FEWER)
    rising = later
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

/**
 * A tone in each frame, measured from the frame's own beginning and then turned back by what the tone has gone through until there; a
 * frame counts the more the less else sounds right beside it.
 */
function readings(low: Float64Array, hertz: number): Reading[] {
  const [own, below, above] = [hertz, hertz - BESIDE, hertz + BESIDE].map(windowedWave)
  let [c, s] = [1, 0]
  return Array.from({ length: low.length / LOW_FRAME }, (_, frame) => {
    const { at, under, over } = heightsIn(low, frame * LOW_FRAME, own, below, above)
    const height = { re: at.re * c - at.im * s, im: at.im * c + at.re * s }
    const turned = c * own.cos - s * own.sin
    s = s * own.cos + c * own.sin
    c = turned
    const beside = powerOf(under) + powerOf(over)
    return { ...height, weight: powerOf(height) + beside < SILENT ? 0 : 1 / (beside + SILENT) }
  })
}

interface Height {
  re: number
  im: number
}

const powerOf = ({ re, im }: Height): number => re * re + im * im

interface MeasuringWave {
  re: Float64Array
  im: Float64Array
  cos: number
  sin: number
}

/** A tone over one frame, times a Hann window, so that what lies beside does not leak in; and its turn back over a whole frame. */
function windowedWave(hertz: number): MeasuringWave {
  const { cos, sin } = turner(hertz, FEWER)
  const scale = 2 / (LOW_FRAME / 2) / passed(hertz)
  const re = new Float64Array(LOW_FRAME)
  const im = new Float64Array(LOW_FRAME)
  let [c, s] = [1, 0]
  for (let k = 0; k < LOW_FRAME; k++) {
    re[k] = scale * c * HANN[k]
    im[k] = -scale * s * HANN[k]
    const turned = c * cos - s * sin
    s = s * cos + c * sin
    c = turned
  }
  return { re, im, cos: c, sin: -s }
}

/** How high a tone stands in a frame, and how high what lies under and over it; all at once, so that each sample is read once. */
function heightsIn(low: Float64Array, from: number, own: MeasuringWave, below: MeasuringWave, above: MeasuringWave) {
  const { re: ownRe, im: ownIm } = own
  const { re: belowRe, im: belowIm } = below
  const { re: aboveRe, im: aboveIm } = above
  let [a, b, c, d, e, f] = [0, 0, 0, 0, 0, 0]
  for (let k = 0; k < LOW_FRAME; k++) {
    const value = low[from + k]
    a += value * ownRe[k]
    b += value * ownIm[k]
    c += value * belowRe[k]
    d += value * belowIm[k]
    e += value * aboveRe[k]
    f += value * aboveIm[k]
  }
  return { at: { re: a, im: b }, under: { re: c, im: d }, over: { re: e, im: f } }
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

/** A tone stays as high for so many samples: 1.25 ms. */
const STEADY = 60

/**
 * A tone, so many samples after so many: of each value and the one before it comes the next (the recurrence of a cosine), from a height
 * and phase that go straight from the middle of one frame to the middle of the next.
 */
class Wave {
  readonly by: number
  first = 0
  second = 0
  private readonly cos: number
  private readonly sin: number
  /** How far it has turned until now, and how far it turns on in `STEADY` samples. */
  private now = { re: 1, im: 0 }
  private readonly on: Height

  constructor(
    hertz: number,
    private readonly heights: readonly Reading[],
  ) {
    const { cos, sin } = turner(hertz)
    this.cos = cos
    this.sin = sin
    this.by = 2 * cos
    let on = { re: 1, im: 0 }
    for (let k = 0; k < STEADY; k++) on = { re: on.re * cos - on.im * sin, im: on.im * cos + on.re * sin }
    this.on = on
  }

  /** Its first two values of the `STEADY` samples from `at` on; those before must have been asked for. */
  begin(at: number): void {
    const { now, on } = this
    const height = heightAt(this.heights, at + STEADY / 2)
    const re = height.re * now.re - height.im * now.im
    const im = height.im * now.re + height.re * now.im
    this.first = re
    this.second = re * this.cos - im * this.sin
    this.now = { re: now.re * on.re - now.im * on.im, im: now.im * on.re + now.re * on.im }
  }
}

/** Stands in where there are fewer than three. */
const SILENCE = new Wave(0, [{ re: 0, im: 0, weight: 0 }])

/** Subtracts three tones: to read and write each sample takes longer than to work them out. */
function subtract(samples: Float64Array, one: Wave, two: Wave, three: Wave): void {
  const [byOne, byTwo, byThree] = [one.by, two.by, three.by]
  for (let from = 0; from < samples.length; from += STEADY) {
    for (const wave of [one, two, three]) wave.begin(from)
    let { first: a, second: aNext } = one
    let { first: b, second: bNext } = two
    let { first: c, second: cNext } = three
    const to = Math.min(samples.length, from + STEADY)
    for (let i = from; i < to; i++) {
      samples[i] -= a + b + c
      const aThen = byOne * aNext - a
      a = aNext
      aNext = aThen
      const bThen = byTwo * bNext - b
      b = bNext
      bNext = bThen
      const cThen = byThree * cNext - c
      c = cNext
      cNext = cThen
    }
  }
}

/** The height of a tone at a sample; before the first middle and after the last it stays. */
function heightAt(heights: readonly Reading[], at: number): Height {
  const part = Math.floor((at + FRAME / 2) / FRAME)
  const a = heights[Math.min(heights.length - 1, Math.max(0, part - 1))]
  const b = heights[Math.min(heights.length - 1, part)]
  const share = (at + FRAME / 2) / FRAME - part
  return { re: a.re + share * (b.re - a.re), im: a.im + share * (b.im - a.im) }
}
