import { log2 } from '../sound/elementary'
import { factor } from '../sound/level'
import { RATE } from '../time'
import { BINS, powerOf, SIZE, soundOf, spectraOf } from './spectra'

/**
 * A dynamic dip in the band in which a voice hisses its s: it goes as deep as the band stands too far above what is set, and only
 * while it does (after the dynamic filters of Dugan and others; here by spectra, so that it looks ahead).
 */
export interface DeEsser {
  kind: 'deEsser'
  /** Where the s of this voice lies, in Hz. */
  hertz: number
  /** The deepest that the dip goes, in dB. */
  dB: number
  /** Level of the band from which on it is too sharp, in dBFS. */
  from: number
}

/** The band reaches from so much of its middle to so many times of it. */
const [LOWER, UPPER] = [0.7, 1.5]
/** So much of what is too much goes. */
const SHARE = 0.8
const DB_PER_DOUBLING = 3.010299956639812
/** Mean square of a sample for the summed power of one side of its spectrum: the window's square has a mean of a half. */
const PER_SAMPLE = 2 / (SIZE * SIZE * 0.5)
const SILENT = 1e-15

export const sibilantBins = (hertz: number): readonly [number, number] => [
  Math.round((hertz * LOWER * SIZE) / RATE),
  Math.min(BINS - 1, Math.round((hertz * UPPER * SIZE) / RATE)),
]

/** The level of a band in each frame, in dBFS. */
export function levelsOfBand(power: Float64Array, frames: number, [from, to]: readonly [number, number]): Float64Array {
  return Float64Array.from({ length: frames }, (_, frame) => {
    let sum = SILENT
    for (let bin = from; bin <= to; bin++) sum += power[frame * BINS + bin]
    return DB_PER_DOUBLING * log2(sum * PER_SAMPLE)
  })
}

/** Softens s and sh in a run in place. */
export function softened({ hertz, dB, from }: DeEsser, samples: Float64Array): void {
  const spectra = spectraOf(samples)
  const band = sibilantBins(hertz)
  const levels = levelsOfBand(powerOf(spectra), spectra.frames, band)
  const down = levels.map((level) => Math.min(dB, Math.max(0, SHARE * (level - from))))
  if (down.every((value) => value === 0)) return
  const gains = new Float32Array(spectra.frames * BINS).fill(1)
  const shoulder = Math.max(1, Math.round((band[1] - band[0]) / 8))
  for (let frame = 0; frame < spectra.frames; frame++) {
    // the mean of three frames, so that it comes and goes softly
    const by = ((down[frame - 1] ?? 0) + down[frame] + (down[frame + 1] ?? 0)) / 3
    if (by === 0) continue
    const gain = factor(-by)
    for (let bin = band[0]; bin <= band[1]; bin++) {
      const share = Math.min(1, (bin - band[0] + 1) / shoulder, (band[1] - bin + 1) / shoulder)
      gains[frame * BINS + bin] = 1 - share * (1 - gain)
    }
  }
  soundOf(spectra, gains, samples)
}
