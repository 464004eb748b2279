import { expect, it } from 'vitest'
import { RATE } from '../time'
import { HIGHEST_HERTZ, spectrogram } from './spectrogram'

const ROWS = 20
const tone = (hertz: number, level: number) =>
  Float32Array.from({ length: RATE / 4 }, (_, i) => level * Math.sin((2 * Math.PI * hertz * i) / RATE))
const loudest = (levels: Float32Array, column: number) => {
  const one = Array.from(levels.subarray(column * ROWS, (column + 1) * ROWS))
  return one.indexOf(Math.max(...one))
}

it('shows a tone in its band, and how loud it is', () => {
  for (const hertz of [300, 1500, 5100]) {
    const levels = spectrogram(tone(hertz, 0.1), 4000, 480, 5, ROWS)
    for (let column = 0; column < 5; column++) expect(loudest(levels, column)).toBe(Math.floor((hertz / HIGHEST_HERTZ) * ROWS))
    const softer = spectrogram(tone(hertz, 0.01), 4000, 480, 5, ROWS)
    expect(levels[loudest(levels, 0)] - softer[loudest(levels, 0)]).toBeCloseTo(20, 1)
  }
})

it('is silent beyond the sound', () => {
  const levels = spectrogram(tone(1000, 0.5), -5000, 100, 2, ROWS)
  expect(Math.max(...levels)).toBeLessThan(-100)
})
