import FFT from 'fft.js'
import { LOOKS_A_SECOND } from './changes'
import { spectrumOf } from './spectrum'

const SEGMENTS = 12
/** Seconds: long enough to be like nothing else, short enough for clocks to stay together. */
const LONGEST = 60
const SHORTEST = 8
const PEAKS = 6
/** Clocks of recorders differ by less than this: parts of one. */
export const MOST_DRIFT = 200e-6
/** Two places agree that lie this close, in looks, besides what the clocks may do. */
const CLOSE = 2.5
/** A peak is one where it stands so far above the rest, as a multiple of its root mean square. */
const LEAST_PEAK = 5

export interface Rough {
  /** Seconds of the first recording at the start of the second, and how fast the second's clock is against it, in parts of one. */
  offset: number
  drift: number
}

interface Peak {
  segment: number
  /** The middle of the segment in the second, and the lag of the first there, in looks. */
  at: number
  lag: number
  height: number
}

/**
 * Where the second of two recordings lies in the first, to some 20 ms, by looking for stretches of it
 * in all of the first at once (correlation of how their bands change) and taking the places that most
 * of them agree on. Null where no two agree.
 */
export function roughly(first: readonly Float32Array[], second: readonly Float32Array[]): Rough | null {
  const [long, short] = [first[0].length, second[0].length]
  const length = Math.round(Math.min(LONGEST * LOOKS_A_SECOND, Math.max(SHORTEST * LOOKS_A_SECOND, short / 6)))
  if (short < length || long < length) return null
  const size = 2 ** Math.ceil(Math.log2(long + length))
  const fft = new FFT(size)
  const spectrum = (band: Float32Array) => {
    const out = spectrumOf(fft, size, band)
    fft.completeSpectrum(out as unknown as number[])
    return out
  }
  const whole = first.map(spectrum)
  const count = Math.min(SEGMENTS, Math.max(2, Math.floor(short / length)))
  const peaks: Peak[] = []
  for (let segment = 0; segment < count; segment++) {
    const from = Math.round(((short - length) * segment) / (count - 1))
    const sum = new Float64Array(2 * size)
    second.forEach((band, b) => {
      const part = spectrum(band.subarray(from, from + length))
      const all = whole[b]
      for (let i = 0; i < 2 * size; i += 2) {
        sum[i] += all[i] * part[i] + all[i + 1] * part[i + 1]
        sum[i + 1] += all[i + 1] * part[i] - all[i] * part[i + 1]
      }
    })
    const out = new Float64Array(2 * size)
    fft.inverseTransform(out as unknown as number[], sum as unknown as number[])
    peaks.push(
      ...highest(out, long, length, size).map(({ place, height }) => ({ segment, at: from + length / 2, lag: place - from, height })),
    )
  }
  return agreed(peaks)
}

/** The places where a segment fits best, apart from one another. */
function highest(correlation: Float64Array, long: number, length: number, size: number): { place: number; height: number }[] {
  const values = new Float64Array(long + length)
  let power = 0
  for (let i = 0; i < values.length; i++) {
    const place = i - length
    values[i] = correlation[2 * (place < 0 ? place + size : place)]
    power += values[i] ** 2
  }
  const mean = Math.sqrt(power / values.length) || 1
  const found: { place: number; height: number }[] = []
  const apart = LOOKS_A_SECOND / 4
  while (found.length < PEAKS) {
    let best = -1
    for (let i = 0; i < values.length; i++) if (best < 0 || values[i] > values[best]) best = i
    if (values[best] < LEAST_PEAK * mean) break
    found.push({ place: best - length, height: values[best] / mean })
    values.fill(0, Math.max(0, best - apart), best + apart)
  }
  return found
}

function agreed(peaks: readonly Peak[]): Rough | null {
  const fits = (a: Peak, b: Peak) => Math.abs(a.lag - b.lag) < CLOSE + MOST_DRIFT * Math.abs(a.at - b.at)
  let best: Peak[] = []
  let most = 0
  for (const peak of peaks) {
    const with_ = new Map<number, Peak>()
    for (const other of peaks) {
      if (!fits(peak, other)) continue
      const known = with_.get(other.segment)
      if (!known || other.height > known.height) with_.set(other.segment, other)
    }
    const weight = [...with_.values()].reduce((sum, { height }) => sum + height, 0)
    if (weight > most) [best, most] = [[...with_.values()], weight]
  }
  if (best.length < 2) return null
  const { at, rise } = line(
    best.map((peak) => ({ x: peak.at, y: peak.lag, weight: peak.height })),
    MOST_DRIFT / 4,
    CLOSE,
  )
  return { offset: at / LOOKS_A_SECOND, drift: rise }
}

export interface Point {
  x: number
  y: number
  weight: number
}

/**
 * The line through points (weighted least squares) whose rise is taken to be small beforehand: points
 * strewn by `strewn` around it, rises by `rises` around nothing. So a short stretch makes no wild guess.
 */
export function line(points: readonly Point[], rises: number, strewn: number): { at: number; rise: number } {
  const weight = points.reduce((sum, point) => sum + point.weight, 0)
  const x = points.reduce((sum, point) => sum + point.x * point.weight, 0) / weight
  const y = points.reduce((sum, point) => sum + point.y * point.weight, 0) / weight
  let over = 0
  let under = (strewn / rises) ** 2 * (weight / points.length)
  for (const point of points) {
    over += point.weight * (point.x - x) * (point.y - y)
    under += point.weight * (point.x - x) ** 2
  }
  const rise = over / under
  return { at: y - rise * x, rise }
}
