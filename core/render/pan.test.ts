import { describe, expect, it } from 'vitest'
import { earsAt, panned } from './pan'
import type { Plan } from './plan'
import { renderAll } from './render'

const LENGTH = 48_000
const ONE = { sound: 'a', channel: 0, at: 0, length: LENGTH, from: 0, gain: 1, ramps: [] }
const mono: Plan = { length: LENGTH, channels: 1, strips: [{ ...ONE, pan: { left: 1, right: 1 } }] }
const stereo: Plan = {
  length: LENGTH,
  channels: 2,
  strips: [
    { ...ONE, pan: { left: 1, right: 0 } },
    { ...ONE, channel: 1, pan: { left: 0, right: 1 } },
  ],
}
const heard = (plan: Plan) => renderAll(plan, (_, channel, from, to) => new Float32Array(to - from).fill(channel ? 0.25 : 0.5))
const at = (plan: Plan, frame: number) => heard(plan).map((channel) => channel[frame])

describe('a place between left and right', () => {
  it('leaves the middle as it was, and has the same power everywhere', () => {
    expect(panned(mono, [{ at: 0, to: 0 }])).toBe(mono)
    expect(panned(mono, undefined)).toBe(mono)
    for (const to of [-1, -0.6, 0, 0.25, 1]) {
      const { left, right } = earsAt(to)
      expect(left ** 2 + right ** 2).toBeCloseTo(2, 4)
      expect(Math.sign(Math.round((right - left) * 1e6))).toBe(Math.sign(to))
    }
    expect(earsAt(-1).right).toBe(0)
  })

  it('is heard from there all along, also what was mono', () => {
    const [left, right] = at(panned(mono, [{ at: 0, to: -1 }]), 20_000)
    expect(left).toBeCloseTo(0.5 * Math.SQRT2, 4)
    expect(right).toBe(0)
  })

  it('keeps the channels of a stereo sound apart', () => {
    const [left, right] = at(panned(stereo, [{ at: 0, to: 1 }]), 20_000)
    expect(left).toBe(0)
    expect(right).toBeCloseTo(0.25 * Math.SQRT2, 4)
  })

  it('moves from one place to the next at even power, and stays where the last one is', () => {
    const moving = panned(mono, [
      { at: 36_000, to: 1 },
      { at: 12_000, to: -1 },
    ])
    const [left, right] = heard(moving)
    for (let frame = 0; frame < LENGTH; frame += 500) expect(left[frame] ** 2 + right[frame] ** 2).toBeCloseTo(0.5, 2)
    expect([left[6000], right[6000]]).toEqual([expect.closeTo(0.707, 2), 0])
    expect(left[24_000]).toBeCloseTo(0.5, 2)
    expect(right[24_000]).toBeCloseTo(0.5, 2)
    expect([left[47_000], right[47_000]]).toEqual([0, expect.closeTo(0.707, 2)])
  })
})
