import { describe, expect, it } from 'vitest'
import { planOf, type TapeFacts } from '../../core/render/plan'
import { renderAll, renderer, type ReadSound } from '../../core/render/render'
import { RATE } from '../../core/time'
import { flowOf, type Flow } from './flow'
import { Reading } from './reading'

const LENGTH = RATE
const facts = (id: string): TapeFacts => ({
  id,
  frames: 2 * RATE,
  sides: [{ name: '', channels: [0] }],
  tone: { sound: 'room', quiet: [] },
})
/** A tone that grows louder, so that every place tells where it is. */
const read: ReadSound = (_, __, from, to) =>
  Float32Array.from({ length: to - from }, (_, i) => ((from + i) / (2 * RATE)) * Math.sin((2 * Math.PI * 440 * (from + i)) / RATE))
const plan = planOf([{ tape: 'a', from: 0, to: LENGTH, sound: 'tape' }], facts)
const whole = renderAll(plan, read)[0]

function heard(flow: Flow, count: number): number[] {
  const out: number[] = []
  while (!flow.ended) out.push(...flow.next(count)[0])
  return out
}

describe('playing from a place', () => {
  it.each([64, 1000, 4096])('gives what is sent, bit for bit, in blocks of %i', (block) => {
    const flow = flowOf(renderer(plan, read), 12_345, LENGTH, 1, [])
    expect(heard(flow, block)).toEqual([...whole.subarray(12_345)])
    expect(flow.at).toBe(LENGTH)
  })

  it('ends where it is told to, and asks for no more of the tape than that', () => {
    const flow = flowOf(renderer(plan, read), 0, 1500, 1, [])
    expect(flow.needs(1000)).toEqual({ from: 0, to: 1000 })
    flow.next(1000)
    expect(flow.needs(1000)).toEqual({ from: 1000, to: 1500 })
    expect(flow.next(1000)[0]).toHaveLength(500)
    expect(flow.ended).toBe(true)
  })

  it.each([0.5, 2])('at %f of the speed takes as much longer or shorter', (speed) => {
    const frames = heard(flowOf(renderer(plan, read), 0, LENGTH, speed, []), 1024).length
    expect(frames / (LENGTH / speed)).toBeGreaterThan(0.95)
    expect(frames / (LENGTH / speed)).toBeLessThan(1.05)
  })

  it('backwards runs from the place to the beginning, and grows softer as the tape then does', () => {
    const flow = flowOf(renderer(plan, read), LENGTH, LENGTH, -1, [])
    const out = heard(flow, 1024)
    expect(flow.at).toBeLessThanOrEqual(0)
    const loudest = (from: number, to: number) => Math.max(...out.slice(from, to).map(Math.abs))
    expect(loudest(4000, 12_000)).toBeGreaterThan(2 * loudest(out.length - 14_000, out.length - 6000))
  })

  it('hurries where nobody speaks, never faster than four times', () => {
    const pauses = [{ from: 20_000, to: 40_000 }]
    const flow = flowOf(renderer(plan, read), 0, LENGTH, 1, pauses)
    const speeds = new Set<number>()
    while (!flow.ended) {
      speeds.add(flow.speed)
      flow.next(1024)
    }
    expect([...speeds].sort()).toEqual([1, 2.5])
    expect(flowOf(renderer(plan, read), 25_000, LENGTH, 2, pauses).speed).toBe(4)
  })
})

describe('a plan that is read backwards', () => {
  const backwards = new Reading(renderer(plan, read), true)

  it('counts its time from the end', () => {
    expect(backwards.turned(0)).toBe(LENGTH)
    expect(backwards.onPlan({ from: 100, to: 300 })).toEqual({ from: LENGTH - 300, to: LENGTH - 100 })
    expect([...backwards.read(100, 300)[0]]).toEqual([...whole.subarray(LENGTH - 300, LENGTH - 100)].reverse())
  })

  it('is silent beyond its ends', () => {
    const [before] = backwards.read(-50, 10)
    expect([...before.subarray(0, 50)]).toEqual(Array(50).fill(0))
    expect([...before.subarray(50)]).toEqual([...whole.subarray(LENGTH - 10)].reverse())
    expect([...backwards.read(LENGTH, LENGTH + 20)[0]]).toEqual(Array(20).fill(0))
  })
})
