import { predict } from '../sound/predictor'

/**
 * Frames that are spoilt or missing, made anew of what lies on both sides. Short ones by the wave that a linear predictor of
 * the sound around them expects (least-squares interpolation of autoregressive signals: Janssen, Veldhuis and Vries 1986);
 * longer ones by waves of the sound itself, repeated from both sides and crossed over (the idea of ITU-T G.711, Appendix I).
 */

const ORDER = 32
/** The predictor is fitted anew to what was made so far, this often. */
const PASSES = 2
/** Frames on either side that a predictor is fitted to. */
const AROUND = 1440
/** From here on a predictor has died away before it comes to the middle, in frames. */
const LONG = 240
/** Waves that are repeated lie between 2.5 ms and 20 ms apart, and are compared over 10 ms. */
const [NEAREST, FARTHEST, COMPARED] = [120, 960, 480]

/** Bridges `[from, to)` in place. Beyond `AROUND` frames on either side nothing is looked at. */
export function bridge(sound: Float32Array, from: number, to: number): void {
  if (to - from < LONG) interpolate(sound, from, to)
  else repeat(sound, from, to)
}

function interpolate(sound: Float32Array, from: number, to: number): void {
  const start = Math.max(0, from - AROUND)
  const x = Float64Array.from(sound.subarray(start, Math.min(sound.length, to + AROUND)))
  const [a, b] = [from - start, to - start]
  // a straight line to begin with
  const [left, right] = [x[a - 1] ?? 0, x[b] ?? 0]
  for (let i = a; i < b; i++) x[i] = left + ((right - left) * (i - a + 1)) / (b - a + 1)
  for (let pass = 0; pass < PASSES; pass++) solve(x, a, b, predictor(x))
  for (let i = a; i < b; i++) sound[start + i] = x[i]
}

/** The predictor of all of a sound, tapered by a parabola, which takes no sine. */
function predictor(sound: Float64Array): Float64Array {
  const x = sound.map((value, i) => (value * 4 * (i + 1) * (sound.length - i)) / (sound.length + 1) ** 2)
  const lags = Float64Array.from({ length: ORDER + 1 }, (_, lag) => {
    let sum = 0
    for (let i = lag; i < x.length; i++) sum += x[i] * x[i - lag]
    return sum
  })
  lags[0] = lags[0] * (1 + 1e-9) + 1e-12
  const own = new Float64Array(ORDER + 1)
  predict(lags, own, new Float64Array(ORDER + 1))
  return own
}

/** Puts those values into `[a, b)` for which the predictor errs least: a banded system, solved by Cholesky's decomposition. */
function solve(x: Float64Array, a: number, b: number, own: Float64Array): void {
  const count = b - a
  const band = Float64Array.from({ length: ORDER + 1 }, (_, lag) => {
    let sum = 0
    for (let k = lag; k <= ORDER; k++) sum += own[k] * own[k - lag]
    return sum
  })
  // what is known pulls on what is not
  const right = new Float64Array(count)
  for (let i = 0; i < count; i++)
    for (let lag = -ORDER; lag <= ORDER; lag++) {
      const at = a + i + lag
      if ((at < a || at >= b) && at >= 0 && at < x.length) right[i] -= band[lag < 0 ? -lag : lag] * x[at]
    }
  const width = ORDER + 1
  const lower = new Float64Array(count * width)
  for (let i = 0; i < count; i++)
    for (let j = Math.max(0, i - ORDER); j <= i; j++) {
      let sum = band[i - j] + (i === j ? band[0] * 1e-9 : 0)
      for (let k = Math.max(0, i - ORDER); k < j; k++) if (j - k <= ORDER) sum -= lower[i * width + i - k] * lower[j * width + j - k]
      lower[i * width + i - j] = i === j ? Math.sqrt(Math.max(sum, 1e-30)) : sum / lower[j * width]
    }
  for (let i = 0; i < count; i++) {
    for (let k = Math.max(0, i - ORDER); k < i; k++) right[i] -= lower[i * width + i - k] * right[k]
    right[i] /= lower[i * width]
  }
  for (let i = count - 1; i >= 0; i--) {
    for (let k = i + 1; k < Math.min(count, i + width); k++) right[i] -= lower[k * width + k - i] * right[k]
    right[i] /= lower[i * width]
    x[a + i] = right[i]
  }
}

/** The wave before goes on, the wave behind came earlier, and the two cross over, as loud in the middle as at the ends. */
function repeat(sound: Float32Array, from: number, to: number): void {
  const count = to - from
  const before = waveLength((i) => sound[from - i] ?? 0)
  const after = waveLength((i) => sound[to - 1 + i] ?? 0)
  const on = Float64Array.from({ length: count }, (_, i) => sound[from - before + (i % before)] ?? 0)
  const back = Float64Array.from({ length: count }, (_, i) => sound[to - 1 + after - ((count - 1 - i) % after)] ?? 0)
  const alike = likeness(on, back)
  for (let i = 0; i < count; i++) {
    const t = (i + 1) / (count + 1)
    const [fall, rise] = [1 - t * t * (3 - 2 * t), t * t * (3 - 2 * t)]
    sound[from + i] = (fall * on[i] + rise * back[i]) / Math.sqrt(fall * fall + rise * rise + 2 * fall * rise * alike)
  }
}

/** 0 where two waves have nothing in common, 1 where they are the same. */
function likeness(a: Float64Array, b: Float64Array): number {
  let [product, first, second] = [0, 1e-12, 1e-12]
  for (let i = 0; i < a.length; i++) {
    product += a[i] * b[i]
    first += a[i] * a[i]
    second += b[i] * b[i]
  }
  return Math.max(0, product / Math.sqrt(first * second))
}

/** After how many frames a sound is most like its beginning; `at`: its frames from 1 on, away from the gap. */
function waveLength(at: (i: number) => number): number {
  let [best, most] = [FARTHEST, -Infinity]
  for (let lag = NEAREST; lag <= FARTHEST; lag++) {
    let [product, power] = [0, 1e-12]
    for (let i = 1; i <= COMPARED; i++) {
      const there = at(i + lag)
      product += at(i) * there
      power += there * there
    }
    const alike = product / Math.sqrt(power)
    if (alike > most) [best, most] = [lag, alike]
  }
  return best
}
