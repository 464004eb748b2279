import { expect, it } from 'vitest'
import { RATE } from '../time'
import { Levels } from './levels'
import { quietStretches } from './quiet'
import { noise } from '../sound/noise'

const looksOf = (samples: Float32Array) => {
  const levels = new Levels()
  levels.add(samples)
  return levels.all
}

it('room tone is found in the quiet between loud stretches, and never in a gap', () => {
  const samples = new Float32Array(10 * RATE)
  samples.set(noise(3 * RATE, 0.4), 0)
  samples.set(noise(2 * RATE, 0.004), 3 * RATE)
  samples.set(noise(3 * RATE, 0.4), 5 * RATE) // then two seconds of digital silence
  const found = quietStretches([looksOf(samples)])
  expect(found.length).toBe(1)
  expect(found[0].from).toBeGreaterThanOrEqual(3 * RATE)
  expect(found[0].to).toBeLessThanOrEqual(5 * RATE)
  expect(found[0].to - found[0].from).toBeGreaterThan(1.8 * RATE)
})

it('room tone is not found where it is loud all along, or where there is nothing', () => {
  expect(quietStretches([looksOf(noise(5 * RATE, 0.5))])).toEqual([])
  expect(quietStretches([looksOf(new Float32Array(RATE))])).toEqual([])
})
