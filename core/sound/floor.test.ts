import { expect, it } from 'vitest'
import { RATE } from '../time'
import { FloorSpectrum } from './floor'
import { noise } from './noise'

const rms = (samples: Float32Array) => Math.sqrt(samples.reduce((sum, x) => sum + x * x, 0) / samples.length)

it('room tone is made from the noise floor where a tape has no quiet', () => {
  const floor = new FloorSpectrum()
  const source = noise(60 * 2048, 0.01)
  for (let at = 0; at < source.length; at += 2048) floor.look(source.subarray(at, at + 2048))
  const made = floor.tone(5 * RATE, 1)
  expect(20 * Math.log10(rms(made) / rms(source))).toBeCloseTo(0, -0.5)
  expect(floor.tone(5 * RATE, 1)).toEqual(made)
})
