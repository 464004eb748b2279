import FFT from 'fft.js'
import { RATE, type Frames } from '../time'
import { hann } from './window'

/** Time by frequency, to be looked at: a look every so many frames, up to what tells voices and noises apart. */

const SIZE = 1024
export const HIGHEST_HERTZ = 8000
const FLOOR = 1e-12
const WINDOW = hann(SIZE, 0.5)

/**
 * Levels in dB of `columns` looks, the first centred on frame `from`, the others `per` frames
 * apart, in `rows` bands of equal width, the lowest first: row by row within a column. What lies
 * beyond the sound is silent.
 */
export function spectrogram(sound: Float32Array, from: Frames, per: number, columns: number, rows: number): Float32Array {
  const fft = new FFT(SIZE)
  const input = new Float64Array(SIZE)
  const out = new Float64Array(2 * SIZE)
  const levels = new Float32Array(columns * rows)
  const bins = (HIGHEST_HERTZ / RATE) * SIZE
  for (let column = 0; column < columns; column++) {
    const start = Math.round(from + column * per) - SIZE / 2
    for (let i = 0; i < SIZE; i++) input[i] = (sound[start + i] ?? 0) * WINDOW[i]
    fft.realTransform(out as unknown as number[], input)
    for (let row = 0; row < rows; row++) {
      const [a, b] = [Math.floor((row * bins) / rows), Math.max(Math.floor((row * bins) / rows) + 1, Math.floor(((row + 1) * bins) / rows))]
      let power = 0
      for (let bin = a; bin < b; bin++) power += out[2 * bin] ** 2 + out[2 * bin + 1] ** 2
      levels[column * rows + row] = 10 * Math.log10((4 * power) / (SIZE * SIZE * (b - a)) + FLOOR)
    }
  }
  return levels
}
