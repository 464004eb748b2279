/**
 * The highest of a sample and of the wave on either side of it, read at four places a sample as ITU-R BS.1770-5, Annex 2 does.
 * The places lie an eighth and three eighths beside a sample, where the sine in the filter takes two values alone: they stand here
 * as numbers, so that every engine works out the same bits.
 */

const TAPS = 16
/** So many samples before and after one are looked at. */
export const BESIDE = TAPS / 2
const BETA = 5
const SINE = { eighth: 0.3826834323650898, threeEighths: 0.9238795325112867 }
/** No place reaches higher than this times the highest sample around it. */
export const MOST_GAIN = 2.02

const bessel = (x: number): number => {
  let [sum, term] = [1, 1]
  for (let k = 1; k < 40; k++) {
    const half = x / 2 / k
    term *= half * half
    sum += term
  }
  return sum
}

/** A windowed sinc that reads the wave `offset` samples after tap BESIDE - 1. */
function filter(offset: number, sine: number): Float64Array {
  const taps = Float64Array.from({ length: TAPS }, (_, i) => {
    const x = i - (BESIDE - 1) - offset
    const across = x / BESIDE
    // sin(pi x) is that of the offset, its sign turning from tap to tap
    const sinc = ((i - BESIDE) % 2 === 0 ? sine : -sine) / (Math.PI * x)
    return Math.abs(across) < 1 ? (sinc * bessel(BETA * Math.sqrt(1 - across * across))) / bessel(BETA) : 0
  })
  const sum = taps.reduce((total, tap) => total + tap, 0)
  return taps.map((tap) => tap / sum)
}

const FILTERS = [filter(1 / 8, SINE.eighth), filter(3 / 8, SINE.threeEighths), filter(5 / 8, SINE.threeEighths), filter(7 / 8, SINE.eighth)]

const [EIGHTH, THREE_EIGHTHS, FIVE_EIGHTHS, SEVEN_EIGHTHS] = FILTERS

/** As a factor of full scale; the sample alone where the wave beside it cannot reach `most`. The line holds BESIDE more on either side. */
export function peakBeside(line: Float32Array, at: number, most: number): number {
  const low = most / MOST_GAIN
  const sample = line[at] < 0 ? -line[at] : line[at]
  if (sample <= low && line[at - 1] <= low && line[at - 1] >= -low && line[at + 1] <= low && line[at + 1] >= -low) return sample
  return Math.max(sample, peakAfter(line, at - BESIDE), peakAfter(line, at - BESIDE + 1))
}

/** The highest of four places between two samples; all four at once, since one alone waits for its own last sum. */
function peakAfter(line: Float32Array, start: number): number {
  let [first, second, third, fourth] = [0, 0, 0, 0]
  for (let k = 0; k < TAPS; k++) {
    const sample = line[start + k]
    first += sample * EIGHTH[k]
    second += sample * THREE_EIGHTHS[k]
    third += sample * FIVE_EIGHTHS[k]
    fourth += sample * SEVEN_EIGHTHS[k]
  }
  return Math.max(Math.abs(first), Math.abs(second), Math.abs(third), Math.abs(fourth))
}
