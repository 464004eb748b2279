import { cosine, sine } from '../sound/elementary'
import { factor } from '../sound/level'
import { RATE } from '../time'

/**
 * Filters of a treatment: cascades of second-order sections after Bristow-Johnson's "Cookbook formulae for audio equalizer biquad
 * filter coefficients" (W3C note, 2021), cuts as Butterworth filters. All are of least phase: there is no delay to make up for.
 */
export type Filter =
  /** What lies below (or above) is cut by so many dB an octave. `hertz`: where it is 3 dB down. */
  | { kind: 'lowCut' | 'highCut'; hertz: number; slope: 6 | 12 | 18 | 24 }
  /** All below (or above) is turned by so many dB; half of them at `hertz`. */
  | { kind: 'lowShelf' | 'highShelf'; hertz: number; dB: number }
  /** What lies around is turned by so many dB. `width`: in octaves, between where it is half as many. */
  | { kind: 'dip'; hertz: number; dB: number; width: number }

/** A section: `y = b0 x + b1 x₁ + b2 x₂ - a1 y₁ - a2 y₂`. */
interface Section {
  b0: number
  b1: number
  b2: number
  a1: number
  a2: number
}

const PI = 3.141592653589793
const SQRT1_2 = 0.7071067811865476

/** Filters a run in place, from silence. */
export function filterRun(filter: Filter, samples: Float64Array): void {
  for (const { b0, b1, b2, a1, a2 } of sectionsOf(filter)) {
    let [x1, x2, y1, y2] = [0, 0, 0, 0]
    for (let i = 0; i < samples.length; i++) {
      const x = samples[i]
      // what is far below any sound would slow the processor down
      const y = b0 * x + b1 * x1 + b2 * x2 - a1 * y1 - a2 * y2 + 1e-30
      x2 = x1
      x1 = x
      y2 = y1
      y1 = y
      samples[i] = y
    }
  }
}

function sectionsOf(filter: Filter): Section[] {
  const w = (2 * PI * Math.max(10, Math.min(RATE / 2 - 1000, filter.hertz))) / RATE
  const [sin, cos] = [sine(w), cosine(w)]
  switch (filter.kind) {
    case 'lowCut':
    case 'highCut':
      return cutSections(filter.kind, filter.slope, w)
    case 'lowShelf':
    case 'highShelf':
      return [shelf(filter.kind === 'lowShelf' ? 1 : -1, factor(filter.dB / 2), sin, cos)]
    case 'dip': {
      const a = factor(filter.dB / 2)
      const alpha = sin * sinhOf((0.34657359027997264 * filter.width * w) / sin)
      return [scaled(1 + alpha * a, -2 * cos, 1 - alpha * a, 1 + alpha / a, -2 * cos, 1 - alpha / a)]
    }
  }
}

/** The quality of each second-order section of a Butterworth filter, by its order. */
const QUALITIES: Record<1 | 2 | 3 | 4, readonly number[]> = {
  1: [],
  2: [SQRT1_2],
  3: [1],
  4: [0.541196100146197, 1.3065629648763766],
}

function cutSections(kind: 'lowCut' | 'highCut', slope: 6 | 12 | 18 | 24, w: number): Section[] {
  const order = (slope / 6) as 1 | 2 | 3 | 4
  const [sin, cos] = [sine(w), cosine(w)]
  const side = kind === 'lowCut' ? 1 : -1
  const sections = QUALITIES[order].map((quality) => {
    const alpha = sin / (2 * quality)
    const b = (1 + side * cos) / 2
    return scaled(b, -side * 2 * b, b, 1 + alpha, -2 * cos, 1 - alpha)
  })
  if (order % 2 === 0) return sections
  // of the first order: bilinear, warped to meet at the corner
  const t = sine(w / 2) / cosine(w / 2)
  const [b0, b1] = kind === 'lowCut' ? [1, -1] : [t, t]
  return [...sections, scaled(b0, b1, 0, 1 + t, t - 1, 0)]
}

/** A shelf of slope 1; `side`: 1 for the low end, -1 for the high. `a`: the square root of its gain. */
function shelf(side: 1 | -1, a: number, sin: number, cos: number): Section {
  const alpha = sin * SQRT1_2
  const root = 2 * Math.sqrt(a) * alpha
  const [plus, minus, turn] = [a + 1, a - 1, side * cos]
  return scaled(
    a * (plus - minus * turn + root),
    side * 2 * a * (minus - plus * turn),
    a * (plus - minus * turn - root),
    plus + minus * turn + root,
    -side * 2 * (minus + plus * turn),
    plus + minus * turn - root,
  )
}

const scaled = (b0: number, b1: number, b2: number, a0: number, a1: number, a2: number): Section => ({
  b0: b0 / a0,
  b1: b1 / a0,
  b2: b2 / a0,
  a1: a1 / a0,
  a2: a2 / a0,
})

/** The hyperbolic sine of what is small, by its series. */
function sinhOf(x: number): number {
  let [term, sum] = [x, x]
  for (let n = 2; n < 30; n += 2) {
    term *= (x * x) / (n * (n + 1))
    sum += term
  }
  return sum
}
