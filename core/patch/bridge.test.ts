import { expect, it } from 'vitest'
import { milliseconds, RATE } from '../time'
import { bridge } from './bridge'

const PERIOD = 320
/** A voice of 150 Hz with some overtones, that slowly gets louder. */
const clean = Float32Array.from(
  { length: RATE / 4 },
  (_, i) =>
    (0.2 + i / RATE) * [1, 0.5, 0.3, 0.2].reduce((sum, level, k) => sum + level * Math.sin((2 * Math.PI * (k + 1) * i) / PERIOD + k), 0),
)

it('bridges a click with a whole number of periods away from it', () => {
  const spot = { from: 6000, to: 6000 + milliseconds(4) }
  const sound = clean.slice()
  for (let i = spot.from; i < spot.to; i++) sound[i] = i % 2 ? 0.9 : -0.9
  const found = bridge(sound, spot)!
  const by = Math.abs(found.from - spot.from) / PERIOD
  expect(Math.abs(by - Math.round(by))).toBeLessThan(0.01)
  expect(found.to - found.from).toBe(spot.to - spot.from)
  // it touches nothing of the click, and is as the sound was
  expect(found.to <= spot.from || found.from >= spot.to).toBe(true)
  for (let i = 0; i < spot.to - spot.from; i++) expect(Math.abs(sound[found.from + i] - clean[spot.from + i])).toBeLessThan(0.05)
})

it('has nothing to bridge with where there is no sound around', () => {
  expect(bridge(new Float32Array(200), { from: 50, to: 150 })).toBeNull()
})
