import { expect, it } from 'vitest'
import { Levels } from '../hearing/levels'
import { quietStretches } from '../hearing/quiet'
import { RATE } from '../time'
import { toneGrains } from './tone'
import { noise } from '../sound/noise'

const looksOf = (samples: Float32Array) => {
  const levels = new Levels()
  levels.add(samples)
  return levels.all
}

it('room tone covers any stretch with grains on a fixed grid', () => {
  const quiet = [{ from: 1000, to: 40_000 }]
  const all = toneGrains('t', quiet, 0, 200_000)
  expect(toneGrains('t', quiet, 50_000, 200_000).at(-1)).toEqual(all.at(-1))
  for (const grain of all) {
    expect(grain.from).toBeGreaterThanOrEqual(1000)
    expect(grain.from + grain.length).toBeLessThanOrEqual(40_000)
  }
  expect(new Set(all.map((grain) => grain.from)).size).toBeGreaterThan(all.length / 2)
})

it('room tone is of the room at that place, where a tape goes from one to another', () => {
  const samples = noise(120 * RATE, 0.3)
  const rooms = [
    [20, 0.001],
    [90, 0.012],
  ] as const
  for (const [second, level] of rooms) for (let i = 0; i < 4; i++) samples.set(noise(RATE, level), (second + 3 * i) * RATE)
  const quiet = quietStretches([looksOf(samples)])
  const around = (second: number) => quiet.filter(({ from }) => from > (second - 5) * RATE && from < (second + 15) * RATE)
  expect([around(20).length, around(90).length]).toEqual([4, 4])
  for (const [second] of rooms)
    for (const { from } of toneGrains('t', quiet, second * RATE, (second + 8) * RATE))
      expect(Math.abs(from / RATE - second)).toBeLessThan(20)
  // further off where there is none near
  expect(toneGrains('t', quiet, 55 * RATE, 56 * RATE).length).toBeGreaterThan(0)
})
