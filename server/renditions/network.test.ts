import { expect, it } from 'vitest'
import { RATE } from '../../core/time'
import { withoutMovingNoise } from '../../core/mend/movingNoise'
import { dBFS, hissOf, voiceLike } from '../../core/mend/voiceLike'
import './network'

const voice = voiceLike(4)

it('moving noise goes in pauses, and what is left lies where it came from', () => {
  const rising = hissOf(voice.length, 0.02).map((sample, i) => sample * (0.3 + (0.7 * i) / voice.length))
  const out = voice.map((sample, i) => sample + rising[i])
  withoutMovingNoise(out)
  const [from, to] = [1.9 * RATE, 2.3 * RATE]
  expect(dBFS(rising, from, to) - dBFS(out, from, to)).toBeGreaterThan(10)
  // most alike where nothing is moved
  const alike = (by: number) => {
    let sum = 0
    for (let i = 2.5 * RATE; i < 2.9 * RATE; i++) sum += out[i + by] * voice[i]
    return sum
  }
  const shifts = Array.from({ length: 41 }, (_, k) => 24 * (k - 20))
  expect(shifts.reduce((best, by) => (alike(by) > alike(best) ? by : best))).toBe(0)
})

it('each run begins anew: the same samples each time, whatever was done before', () => {
  const [one, two] = [voice.slice(0, 50_000), voice.slice(0, 50_000)]
  withoutMovingNoise(one)
  withoutMovingNoise(hissOf(20_000, 0.1))
  withoutMovingNoise(two)
  expect(two).toEqual(one)
})
