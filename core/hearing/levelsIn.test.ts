import { expect, it } from 'vitest'
import { levelsIn } from './levelsIn'

it('the level of each part of a run is that of its mean square, and silence has a figure too', () => {
  const samples = Float32Array.from({ length: 90 }, (_, i) => (i < 30 ? 0 : (i % 2 ? 1 : -1) * (i < 60 ? 0.1 : 1)))
  expect(levelsIn(samples, 3).map(Math.round)).toEqual([-120, -20, 0])
  expect(levelsIn(new Float32Array(2), 4)).toEqual([-120, -120, -120, -120])
})
