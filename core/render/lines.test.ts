import { expect, it } from 'vitest'
import { random } from '../sound/random'
import { part, shifted, type Line, type Pan, type Plan, type Strip } from './plan'
import { renderAll, renderer, type ReadSound } from './render'

/** Level lines on two clocks, and sound that moves from side to side. */

const LENGTH = 40_000
const read: ReadSound = (_, __, from, to) => new Float32Array(to - from).fill(0.5)
const MIDDLE: Pan = { left: 1, right: 1 }
const strip = (fields: Partial<Strip>): Strip => ({
  sound: 'a',
  channel: 0,
  pan: MIDDLE,
  at: 0,
  length: LENGTH,
  from: 7000,
  gain: 1,
  ramps: [],
  ...fields,
})
const plan = (fields: Partial<Strip>, channels: 1 | 2 = 2): Plan => ({ length: LENGTH, channels, strips: [strip(fields)] })
const at = (made: Plan, frame: number) => renderAll(made, read).map((channel) => channel[frame] / 0.5)

const ofTape: Line = {
  clock: 'sound',
  points: [
    { at: 17_000, dB: 0 },
    { at: 20_000, dB: -20 },
  ],
}
const ofPage: Line = {
  clock: 'plan',
  points: [
    { at: 20_000, dB: 0 },
    { at: 30_000, dB: -6 },
  ],
}

it('a line of the sound travels with it, and one of the page stays where it is', () => {
  const both = plan({ lines: [ofTape, ofPage] })
  expect(at(both, 9000)[0]).toBeCloseTo(1, 5)
  expect(at(both, 14_000)[0]).toBeCloseTo(0.1, 5)
  expect(at(both, 32_000)[0]).toBeCloseTo(0.1 * 10 ** (-6 / 20), 5)
  // the sound a thousand frames earlier
  const earlier = plan({ lines: [ofTape, ofPage], from: 8000 })
  expect(at(earlier, 12_500)[0]).toBeCloseTo(0.1, 5)
  expect(at(earlier, 25_000)[0]).toBe(at(both, 25_000)[0])
})

it('a plan that is moved, or of which a part is taken, sounds as it did', () => {
  const moves = [
    { at: 10_000, left: 1, right: 0 },
    { at: 30_000, left: 0, right: 1 },
  ]
  const whole = plan({ lines: [ofTape, ofPage], pan: { ...MIDDLE, moves } })
  const sound = renderAll(whole, read)
  const later = renderAll({ ...whole, length: LENGTH + 640, strips: shifted(whole.strips, 640) }, read)
  const some = renderAll(part(whole, 6400, 30_000), read)
  for (const c of [0, 1]) {
    expect(Math.max(...sound[c].map((value, i) => Math.abs(value - later[c][i + 640])))).toBeLessThan(1e-7)
    expect(Math.max(...some[c].map((value, i) => Math.abs(value - sound[c][i + 6400])))).toBeLessThan(1e-7)
  }
})

it('moves from one side to the other, in blocks of any size to the same bits', () => {
  const moves = [
    { at: 10_000, left: 1, right: 0 },
    { at: 20_000, left: 0.5, right: 0.5 },
    { at: 30_000, left: 0, right: 1 },
  ]
  for (const fields of [{ pan: { ...MIDDLE, moves } }, { pan: { ...MIDDLE, moves }, lines: [ofPage], gain: 0.7 }]) {
    const made = plan(fields)
    const all = renderAll(made, read)
    const pulled = renderer(made, read)
    const next = random(5)
    for (let from = 0; from < LENGTH;) {
      const count = Math.min(LENGTH - from, 1 + Math.floor(next() * 3000))
      const block = [new Float32Array(count), new Float32Array(count)]
      pulled.pull(from, block)
      block.forEach((channel, c) => expect(channel).toEqual(all[c].slice(from, from + count)))
      from += count
    }
  }
  const moving = plan({ pan: { ...MIDDLE, moves } })
  expect(at(moving, 0)).toEqual([1, 0])
  expect(at(moving, 15_000)).toEqual([0.75, 0.25])
  expect(at(moving, 20_000)).toEqual([0.5, 0.5])
  expect(at(moving, 39_000)).toEqual([0, 1])
  // heard through one channel it is as loud as both sides are on average
  expect(at(plan({ pan: { ...MIDDLE, moves } }, 1), 15_000)).toEqual([0.5])
})
