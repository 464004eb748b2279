import { predict } from '../sound/predictor'

/**
 * Frames made anew by the linear predictor of the sound around them: those values for which it errs least (least-squares
 * interpolation of autoregressive signals: Janssen, Veldhuis and Vries 1986).
 */

/** The predictor of some samples into `own`, of which the first is 1. They are tapered by a parabola, which takes no sine. */
export function fitPredictor(samples: Float64Array, own: Float64Array): void {
  const count = samples.length
  const scale = 4 / (count + 1) ** 2
  const tapered = new Float64Array(count)
  for (let i = 0; i < count; i++) tapered[i] = samples[i] * scale * (i + 1) * (count - i)
  const lags = new Float64Array(own.length + 5)
  // five at a time: one sum does not wait for the other
  for (let lag = 0; lag < own.length; lag += 5) fiveLags(tapered, lag, lags)
  // a little white noise keeps the system sound
  lags[0] = lags[0] * (1 + 1e-7) + 1e-12
  predict(lags.subarray(0, own.length), own, new Float64Array(own.length))
}

/** How alike samples are to those `lag` to `lag + 4` before them. */
function fiveLags(samples: Float64Array, lag: number, out: Float64Array): void {
  let a = 0
  let b = 0
  let c = 0
  let d = 0
  let e = 0
  // what lies before, each read once and handed on; nothing lies before the first
  let one = 0
  let two = 0
  let three = 0
  let four = 0
  for (let i = lag; i < samples.length; i++) {
    const value = samples[i]
    const before = samples[i - lag]
    a += value * before
    b += value * one
    c += value * two
    d += value * three
    e += value * four
    four = three
    three = two
    two = one
    one = before
  }
  out[lag] = a
  out[lag + 1] = b
  out[lag + 2] = c
  out[lag + 3] = d
  out[lag + 4] = e
}

/** Puts those values into `spots`, which rise, for which the predictor errs least: a banded system, by Cholesky's decomposition. */
export function leastError(samples: Float64Array, spots: readonly number[], own: Float64Array): void {
  const order = own.length - 1
  const band = own.map((_, lag) => {
    let sum = 0
    for (let k = lag; k <= order; k++) sum += own[k] * own[k - lag]
    return sum
  })
  const right = pulls(samples, spots, band)
  const width = widthOf(spots, order)
  const lower = decomposed(spots, band, width)
  const count = spots.length
  for (let i = 0; i < count; i++) {
    for (let k = Math.max(0, i - width + 1); k < i; k++) right[i] -= lower[i * width + i - k] * right[k]
    right[i] /= lower[i * width]
  }
  for (let i = count - 1; i >= 0; i--) {
    for (let k = i + 1; k < Math.min(count, i + width); k++) right[i] -= lower[k * width + k - i] * right[k]
    right[i] /= lower[i * width]
    samples[spots[i]] = right[i]
  }
}

/** How what is known pulls on what is not. */
function pulls(samples: Float64Array, spots: readonly number[], band: Float64Array): Float64Array {
  const order = band.length - 1
  const unknown = new Set(spots)
  return Float64Array.from(spots, (spot) => {
    let sum = 0
    for (let at = Math.max(0, spot - order); at <= Math.min(samples.length - 1, spot + order); at++)
      if (!unknown.has(at)) sum -= band[at < spot ? spot - at : at - spot] * samples[at]
    return sum
  })
}

/** How many spots at most lie within the predictor's length of each other: beyond it they know nothing of one another. */
function widthOf(spots: readonly number[], order: number): number {
  let width = 1
  for (let i = 0, j = 0; i < spots.length; i++) {
    while (spots[i] - spots[j] > order) j++
    width = Math.max(width, i - j + 1)
  }
  return width
}

function decomposed(spots: readonly number[], band: Float64Array, width: number): Float64Array {
  const order = band.length - 1
  const lower = new Float64Array(spots.length * width)
  for (let i = 0; i < spots.length; i++) {
    const first = Math.max(0, i - width + 1)
    for (let j = first; j <= i; j++) {
      const apart = spots[i] - spots[j]
      let sum = apart <= order ? band[apart] : 0
      if (i === j) sum *= 1 + 1e-9
      for (let k = Math.max(first, j - width + 1); k < j; k++) sum -= lower[i * width + i - k] * lower[j * width + j - k]
      lower[i * width + i - j] = i === j ? Math.sqrt(Math.max(sum, 1e-30)) : sum / lower[j * width]
    }
  }
  return lower
}
