import { expect, it } from 'vitest'
import { speechLevel } from './speechLevel'

const tone = (level: number, frames: number) => Float32Array.from({ length: frames }, (_, i) => level * Math.sin(i / 5))

it('is that of what is said, however long one pauses', () => {
  const talk = tone(0.2, 24_000)
  const level = speechLevel(talk)
  expect(level).toBeCloseTo(20 * Math.log10(0.2 / Math.SQRT2), 1)
  const withPauses = new Float32Array(96_000).fill(0.0004)
  withPauses.set(talk, 30_000)
  expect(speechLevel(withPauses)).toBeCloseTo(level, 0)
  expect(speechLevel(tone(0.1, 24_000))).toBeCloseTo(level - 6.02, 1)
  expect(speechLevel(new Float32Array(9600))).toBe(-Infinity)
  expect(speechLevel(new Float32Array(10))).toBe(-Infinity)
})
