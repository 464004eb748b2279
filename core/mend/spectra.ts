import { sine } from '../sound/elementary'
import { fourier } from '../sound/fourier'

/**
 * A run as spectra that overlap by half, and a run made of them again (weighted overlap-add: Crochiere 1980). What turns
 * spectra by gains that are all 1 gives the run as it was, to the last but a few bits; there is no delay.
 */

export const SIZE = 2048
export const HOP = SIZE / 2
export const BINS = SIZE / 2 + 1

const PI = 3.141592653589793
/** The root of a Hann window: once before and once behind. */
const WINDOW = Float64Array.from({ length: SIZE }, (_, i) => sine((PI * (i + 0.5)) / SIZE))
/** The same, for a transform that is not scaled. */
const WINDOW_BACK = WINDOW.map((value) => value / SIZE)

export interface Spectra {
  /** Samples of the run. */
  length: number
  frames: number
  /** Real and imaginary parts, bin by bin, frame by frame. The middle of frame `k` lies `k * HOP` into the run. */
  values: Float64Array
}

const fft = fourier(SIZE)
const transform = (into: Float64Array, from: Float64Array): void => fft.transform(into as unknown as number[], from)

/** Two frames go through one transform, one as the real part and one as the imaginary one. */
export function spectraOf(samples: Float64Array): Spectra {
  const frames = Math.ceil(samples.length / HOP) + 1
  const values = new Float64Array(frames * 2 * BINS)
  const both = new Float64Array(2 * SIZE)
  const out = new Float64Array(2 * SIZE)
  for (let frame = 0; frame < frames; frame += 2) {
    cut(samples, (frame - 1) * HOP, both, 0)
    cut(samples, frame * HOP, both, 1)
    transform(out, both)
    part(out, values, frame, frame + 1 < frames)
  }
  return { length: samples.length, frames, values }
}

/** One frame under its window; half as loud, as `part` adds two halves. */
function cut(samples: Float64Array, from: number, into: Float64Array, side: 0 | 1): void {
  const [first, last] = [Math.max(0, -from), Math.min(SIZE, samples.length - from)]
  if (last - first < SIZE) for (let i = 0; i < SIZE; i++) into[2 * i + side] = 0
  for (let i = first; i < last; i++) into[2 * i + side] = 0.5 * samples[from + i] * WINDOW[i]
}

/** Tells the two frames of one transform apart: the spectrum of a real wave is its own mirror. */
function part(both: Float64Array, values: Float64Array, frame: number, second: boolean): void {
  let a = frame * 2 * BINS
  let b = second ? a + 2 * BINS : a
  for (let bin = 0, mirror = 0; bin < BINS; bin++, mirror = SIZE - bin) {
    const re = both[2 * bin]
    const im = both[2 * bin + 1]
    const mirrorRe = both[2 * mirror]
    const mirrorIm = both[2 * mirror + 1]
    // where there is no second one, the first is written over it
    values[b++] = im + mirrorIm
    values[b++] = mirrorRe - re
    values[a++] = re + mirrorRe
    values[a++] = im - mirrorIm
  }
}

/** Power of each bin of each frame. */
export function powerOf({ frames, values }: Spectra): Float64Array {
  const power = new Float64Array(frames * BINS)
  for (let i = 0; i < power.length; i++) power[i] = values[2 * i] * values[2 * i] + values[2 * i + 1] * values[2 * i + 1]
  return power
}

/** Turns each bin of each frame by its gain, and puts the run together again. Two frames go through one transform. */
export function soundOf({ length, frames, values }: Spectra, gains: Float32Array, into: Float64Array): void {
  const both = new Float64Array(2 * SIZE)
  const out = new Float64Array(2 * SIZE)
  into.fill(0)
  for (let frame = 0; frame < frames; frame += 2) {
    pack(values, gains, frame, Math.min(frames - 1, frame + 1), both)
    // with real and imaginary parts swapped before and after, a transform is its own way back, but for its scale
    transform(out, both)
    add(out, 1, (frame - 1) * HOP, into, length)
    if (frame + 1 < frames) add(out, 0, frame * HOP, into, length)
  }
}

/** One frame as the imaginary part, another as the real one. */
function pack(values: Float64Array, gains: Float32Array, frame: number, next: number, both: Float64Array): void {
  for (let bin = 0; bin < BINS; bin++) {
    const a = frame * BINS + bin
    const b = next * BINS + bin
    const aRe = gains[a] * values[2 * a]
    const aIm = gains[a] * values[2 * a + 1]
    const bRe = gains[b] * values[2 * b]
    const bIm = gains[b] * values[2 * b + 1]
    both[2 * bin] = aIm + bRe
    both[2 * bin + 1] = aRe - bIm
    if (bin === 0 || bin === BINS - 1) continue
    both[2 * (SIZE - bin)] = bRe - aIm
    both[2 * (SIZE - bin) + 1] = aRe + bIm
  }
}

function add(out: Float64Array, side: 0 | 1, from: number, into: Float64Array, length: number): void {
  const last = Math.min(SIZE, length - from)
  // two windows squared come to 1
  for (let i = Math.max(0, -from); i < last; i++) into[from + i] += out[2 * i + side] * WINDOW_BACK[i]
}

/**
 * The mean of each value and its neighbours, so many frames and bins to either side; at the edges of those that are there. Asked for
 * frame by frame from the first one on; what it gave for one frame is written over by the next. Only the rows in reach are at hand.
 */
export function meansAround(
  values: Float64Array,
  frames: number,
  reach: { frames: number; bins: number },
): (frame: number) => Float64Array {
  const shares = Float64Array.from(
    { length: BINS },
    (_, bin) => 1 / (Math.min(BINS - 1, bin + reach.bins) - Math.max(0, bin - reach.bins) + 1),
  )
  const rows = Array.from({ length: 2 * reach.frames + 2 }, () => new Float64Array(BINS))
  const sums = new Float64Array(BINS)
  const out = new Float64Array(BINS)
  const rowOf = (frame: number) => rows[(frame + rows.length) % rows.length]
  const comesAt = (frame: number) => {
    const comes = rowOf(frame)
    if (frame < frames) meansAcross(values, frame * BINS, reach.bins, shares, comes)
    else comes.fill(0)
    return comes
  }
  for (let frame = 0; frame < reach.frames; frame++) {
    const comes = comesAt(frame)
    for (let bin = 0; bin < BINS; bin++) sums[bin] += comes[bin]
  }
  return (frame) => {
    const comes = comesAt(frame + reach.frames)
    // rows that lie before the first frame were never filled: they are 0
    const goes = rowOf(frame - reach.frames - 1)
    const share = 1 / (Math.min(frames - 1, frame + reach.frames) - Math.max(0, frame - reach.frames) + 1)
    for (let bin = 0; bin < BINS; bin++) {
      const sum = sums[bin] + (comes[bin] - goes[bin])
      sums[bin] = sum
      out[bin] = sum * share
    }
    return out
  }
}

/** Moving means over the bins of one frame, which begins at `at`. */
function meansAcross(values: Float64Array, at: number, reach: number, shares: Float64Array, out: Float64Array): void {
  let sum = 0
  for (let bin = 0; bin < reach; bin++) sum += values[at + bin]
  let bin = 0
  for (; bin <= reach; bin++) {
    sum += values[at + bin + reach]
    out[bin] = sum * shares[bin]
  }
  for (; bin + reach < BINS; bin++) {
    sum += values[at + bin + reach] - values[at + bin - reach - 1]
    out[bin] = sum * shares[bin]
  }
  for (; bin < BINS; bin++) {
    sum -= values[at + bin - reach - 1]
    out[bin] = sum * shares[bin]
  }
}
