import FFT from 'fft.js'
import { NARROW, NARROW_RATE, narrowed, type Source } from './source'
import { hann } from '../sound/window'

const SIZE = 256
/** Narrow frames between two looks: 16 ms. */
const HOP = 128
export const LOOKS_A_SECOND = NARROW_RATE / HOP
/** Edges of the bands, in Hz. */
const EDGES = [250, 450, 750, 1200, 1800, 2600, 3500]
const BLOCK = 512

/**
 * How the sound changes, a row a band, at 62.5 looks a second: the slope of its level in dB, which a
 * microphone's distance and colour do not alter. Levels below a few times the band's own floor count
 * as that floor. Each band has a mean of 0 and a power of 1.
 */
export function changesOf(source: Source): Float32Array[] {
  const count = Math.max(0, Math.floor(source.frames / NARROW / HOP))
  const levels = EDGES.slice(1).map(() => new Float32Array(count))
  const fft = new FFT(SIZE)
  const out = new Float64Array(2 * SIZE)
  const window = hann(SIZE)
  const input = new Float64Array(SIZE)
  const bins = EDGES.map((hertz) => Math.round((hertz * SIZE) / NARROW_RATE))
  for (let first = 0; first < count; first += BLOCK) {
    const looks = Math.min(BLOCK, count - first)
    const sound = narrowed(source, first * HOP, (first + looks - 1) * HOP + SIZE)
    for (let look = 0; look < looks; look++) {
      for (let i = 0; i < SIZE; i++) input[i] = sound[look * HOP + i] * window[i]
      fft.realTransform(out as unknown as number[], input)
      for (let band = 0; band < levels.length; band++) {
        let power = 0
        for (let bin = bins[band]; bin < bins[band + 1]; bin++) power += out[2 * bin] ** 2 + out[2 * bin + 1] ** 2
        levels[band][first + look] = power
      }
    }
  }
  return levels.map(slopes)
}

function slopes(powers: Float32Array): Float32Array {
  const sorted = Float32Array.from(powers).sort()
  const floor = 3 * sorted[Math.floor(sorted.length * 0.1)] + 1e-12
  const levels = powers.map((power) => Math.log(power + floor))
  const out = levels.map((_, i) => (levels[Math.min(levels.length - 1, i + 1)] ?? 0) - levels[Math.max(0, i - 1)])
  const power = Math.sqrt(out.reduce((sum, value) => sum + value * value, 0) / (out.length || 1)) || 1
  return out.map((value) => value / power)
}
