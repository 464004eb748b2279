import { fitPredictor, leastError } from './leastError'

/**
 * Frames that are spoilt or missing, made anew of what lies on both sides. Short ones by the wave that a linear predictor of
 * the sound around them expects (`leastError.ts`);
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
  const spots = Array.from({ length: b - a }, (_, i) => a + i)
  const own = new Float64Array(ORDER + 1)
  for (let pass = 0; pass < PASSES; pass++) {
    fitPredictor(x, own)
    leastError(x, spots, own)
  }
  for (let i = a; i < b; i++) sound[start + i] = x[i]
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
