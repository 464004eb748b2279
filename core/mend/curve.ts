import { log2 } from '../sound/elementary'
import { factor } from '../sound/level'
import { RATE } from '../time'
import { BINS, powerOf, SIZE, soundOf, spectraOf } from './spectra'

/** A tone that is drawn by third octaves: so that one passage sounds like another one of the same voice. */
export interface Curve {
  kind: 'curve'
  /** Gain at the middle of each third octave, in dB, from 63 Hz to 16 kHz (the middles of IEC 61260-1). */
  thirds: readonly number[]
}

const REFERENCE = 1000
const [FIRST, LAST] = [-12, 12]
export const THIRDS = LAST - FIRST + 1
/** Nothing is turned by more than this, in dB. */
const MOST = 18
const DB_PER_DOUBLING = 3.010299956639812
/** Frames so far below the loudest are no speech, in dB. */
const BELOW = 25

/** Which third octave a bin lies at, from 0 on, in fractions. */
const placeOf = (bin: number): number => 3 * log2(Math.max(1, bin) * (RATE / SIZE / REFERENCE)) - FIRST

/** Gives a run its tone in place. */
export function toned({ thirds }: Curve, samples: Float64Array): void {
  const spectra = spectraOf(samples)
  const one = Float32Array.from({ length: BINS }, (_, bin) => {
    const place = Math.max(0, Math.min(thirds.length - 1, placeOf(bin)))
    const band = Math.floor(place)
    return factor(thirds[band] + (place - band) * ((thirds[band + 1] ?? thirds[band]) - thirds[band]))
  })
  const gains = new Float32Array(spectra.frames * BINS)
  for (let frame = 0; frame < spectra.frames; frame++) gains.set(one, frame * BINS)
  soundOf(spectra, gains, samples)
}

/** The level of each third octave while somebody speaks, in dB. Throws a RangeError where nobody does. */
export function thirdsOf(samples: Float64Array): number[] {
  const spectra = spectraOf(samples)
  const power = powerOf(spectra)
  const totals = Float64Array.from({ length: spectra.frames }, (_, frame) => {
    let sum = 0
    for (let bin = 5; bin < BINS; bin++) sum += power[frame * BINS + bin]
    return sum
  })
  const most = totals.reduce((a, b) => Math.max(a, b), 0)
  if (most < 1e-6) throw new RangeError('nobody speaks there')
  const sums = new Float64Array(THIRDS).fill(1e-20)
  let count = 0
  for (let frame = 0; frame < spectra.frames; frame++) {
    if (totals[frame] < most * factor(-BELOW) ** 2) continue
    count++
    for (let bin = 1; bin < BINS; bin++) {
      const band = Math.round(placeOf(bin))
      if (band >= 0 && band < THIRDS) sums[band] += power[frame * BINS + bin]
    }
  }
  return Array.from(sums, (sum) => DB_PER_DOUBLING * log2(sum / count))
}

/** What makes a passage sound like another one, from the thirds of both: tone and level at once. */
export const curveBetween = (from: readonly number[], to: readonly number[]): Curve => ({
  kind: 'curve',
  thirds: from.map((level, band) => Math.round(10 * Math.max(-MOST, Math.min(MOST, to[band] - level))) / 10),
})
