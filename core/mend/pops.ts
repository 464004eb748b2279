import { factor } from '../sound/level'
import { RATE, type Stretch } from '../time'
import { BINS, HOP, powerOf, SIZE, soundOf, spectraOf } from './spectra'

/**
 * Pops of breath on p and b, bumps of a hand or a table: where the low end stands far above the low end that the voice has of itself,
 * it is turned down to that, there only; all else is left as it is.
 */
export interface Pops {
  kind: 'pops'
  /** How far the low end stands above what is usual before it is a pop, in dB. */
  over: number
}

/** What is low: up to 130 Hz; from there it goes back to nothing within two bins. */
const LOW_BINS = Math.ceil((130 * SIZE) / RATE)
/** So many of a run's frames have a usual low end. */
const USUAL = 0.9
/** No low end is turned down by more, in dB. */
const MOST = 36
const SILENT = 1e-9

/** Takes pops out of a run in place; gives where they began. */
export function withoutPops({ over }: Pops, samples: Float64Array): Stretch[] {
  const spectra = spectraOf(samples)
  const power = powerOf(spectra)
  const low = Float64Array.from({ length: spectra.frames }, (_, frame) => {
    let sum = SILENT
    for (let bin = 0; bin < LOW_BINS; bin++) sum += power[frame * BINS + bin]
    return sum
  })
  const usual = low.slice().sort()[Math.floor(low.length * USUAL)]
  const from = usual * factor(over) ** 2
  const least = factor(-MOST)
  const gains = new Float32Array(power.length).fill(1)
  const found: Stretch[] = []
  for (let frame = 0; frame < spectra.frames; frame++) {
    // a pop is turned down from where it comes in to where it has gone
    const top = Math.max(low[frame - 1] ?? 0, low[frame], low[frame + 1] ?? 0)
    if (top <= from) continue
    const last = found[found.length - 1]
    if (last && last.to === frame * HOP) found[found.length - 1] = { from: last.from, to: last.to + HOP }
    else found.push({ from: frame * HOP, to: (frame + 1) * HOP })
    const gain = Math.max(least, Math.min(1, Math.sqrt(usual / low[frame])))
    for (let bin = 0; bin < LOW_BINS + 2; bin++) {
      const share = Math.min(1, (LOW_BINS + 2 - bin) / 3)
      gains[frame * BINS + bin] = 1 - share * (1 - gain)
    }
  }
  if (found.length) soundOf(spectra, gains, samples)
  return found
}
