import type { Tops } from './levels'

/**
 * True peak in the manner of ITU-R BS.1770-5, Annex 2: the highest value of the wave between the
 * samples too, looked for at four places a sample. The places lie an eighth and three eighths to
 * either side of a sample, so that their filters mirror each other and one sum and one difference
 * give two of them at once: the larger of |s + d| and |s - d| is |s| + |d|. Looked at are only the
 * places beside samples that neither neighbour tops, on the side of the higher one, and of those
 * only where the filters, by the largest gain that they have, could reach the highest value so far.
 */

const TAPS = 16
const HALF = TAPS / 2
/** A parabola falls short of a wave's top by less than this (it is 1.13 at a quarter of the rate, where it is worst for what sounds). */
const PARABOLA_SHORT = 1.3
const BETA = 5

const bessel = (x: number): number => {
  let sum = 1
  let term = 1
  for (let k = 1; k < 40; k++) {
    term *= (x / 2 / k) ** 2
    sum += term
  }
  return sum
}

/** A windowed sinc that reads the wave `offset` samples after tap HALF - 1. */
function phase(offset: number): Float64Array {
  const taps = Float64Array.from({ length: TAPS }, (_, i) => {
    const x = i - (HALF - 1) - offset
    const sinc = Math.sin(Math.PI * x) / (Math.PI * x)
    const across = x / HALF
    return Math.abs(across) < 1 ? (sinc * bessel(BETA * Math.sqrt(1 - across * across))) / bessel(BETA) : 0
  })
  const sum = taps.reduce((total, tap) => total + tap, 0)
  return taps.map((tap) => tap / sum)
}

// offsets 1/8 and 7/8 mirror each other around the middle between two taps, as do 3/8 and 5/8
const split = (offset: number) => {
  const taps = phase(offset)
  return {
    even: Float64Array.from({ length: HALF }, (_, i) => (taps[i] + taps[TAPS - 1 - i]) / 2),
    odd: Float64Array.from({ length: HALF }, (_, i) => (taps[i] - taps[TAPS - 1 - i]) / 2),
    gain: taps.reduce((total, tap) => total + Math.abs(tap), 0),
  }
}
const near = split(1 / 8)
const far = split(3 / 8)
const MOST_GAIN = Math.max(near.gain, far.gain)

export class TruePeak {
  /** The highest so far, as a factor of full scale. */
  peak = 0
  /** The highest sample so far. */
  sample = 0
  private readonly held = new Float32Array(TAPS)
  private line = new Float32Array(0)
  /** The highest of the bin before. */
  private before = 0

  /** Takes samples, and the highest of each bin of them. */
  add(samples: Float32Array, tops: Tops): void {
    const length = samples.length + TAPS
    if (this.line.length < length) this.line = new Float32Array(length)
    const { line } = this
    line.set(this.held)
    line.set(samples, TAPS)
    this.look(line, tops)
    this.held.set(line.subarray(samples.length, length))
  }

  /** The end of the sound: what follows it is silence. */
  finish(): number {
    this.add(new Float32Array(TAPS), { ends: Int32Array.of(TAPS), heights: Float32Array.of(0), count: 1 })
    return this.peak
  }

  private look(line: Float32Array, { ends, heights, count }: Tops): void {
    // a place is looked at once half the taps lie after it, so that each bin is joined by the end of the one before
    let { peak, sample, before } = this
    let from = 0
    for (let bin = 0; bin < count; bin++) {
      const height = heights[bin]
      if (height > sample) sample = height
      if (height > peak) peak = height
      const highest = height > before ? height : before
      if (highest * MOST_GAIN > peak) peak = beside(line, from + HALF, ends[bin] + HALF, peak)
      before = height
      from = ends[bin]
    }
    this.peak = peak
    this.sample = sample
    this.before = before
  }
}

/** The highest of what lies beside the tops of a block, or `peak` where that is higher. */
function beside(line: Float32Array, from: number, end: number, peak: number): number {
  for (let i = from; i < end; i++) {
    const sample = line[i]
    const height = Math.abs(sample)
    if (height * MOST_GAIN <= peak) continue
    const before = sample < 0 ? -line[i - 1] : line[i - 1]
    const after = sample < 0 ? -line[i + 1] : line[i + 1]
    if (before > height || after > height || -before > height || -after > height) continue
    // the top of a parabola through the three is near what the filters find; what stays well below is passed over
    const bend = 2 * height - before - after
    const top = bend > 0 ? height + ((after - before) * (after - before)) / (8 * bend) : height
    if (top * PARABOLA_SHORT <= peak) continue
    const high = between(line, after > before ? i - HALF + 1 : i - HALF)
    if (high > peak) peak = high
  }
  return peak
}

/** The highest of four places between two samples, of which the first lies HALF - 1 after `at`. */
function between(line: Float32Array, at: number): number {
  const { even: nearEven, odd: nearOdd } = near
  const { even: farEven, odd: farOdd } = far
  let s1 = 0
  let d1 = 0
  let s2 = 0
  let d2 = 0
  for (let k = 0; k < HALF; k++) {
    const sum = line[at + k] + line[at + TAPS - 1 - k]
    const difference = line[at + k] - line[at + TAPS - 1 - k]
    s1 += sum * nearEven[k]
    d1 += difference * nearOdd[k]
    s2 += sum * farEven[k]
    d2 += difference * farOdd[k]
  }
  return Math.max(Math.abs(s1) + Math.abs(d1), Math.abs(s2) + Math.abs(d2))
}
