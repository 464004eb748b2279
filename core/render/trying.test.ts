import { expect, it } from 'vitest'
import { mended, type MendStep } from '../mend/chain'
import { random as seeded } from '../sound/random'
import { RATE } from '../time'
import { planOf, type TapeFacts } from './plan'
import { renderer } from './render'

const LENGTH = 10 * RATE
const random = seeded(21)
const noise = Float32Array.from({ length: LENGTH }, () => random() - 0.5)
const steps: MendStep[] = [{ kind: 'lowCut', hertz: 90, slope: 18 }]
const facts: TapeFacts = {
  id: 'tape',
  frames: LENGTH,
  sides: [{ name: '', channels: [0], trying: { steps } }],
  tone: { sound: 'tape', quiet: [] },
}

it('what is tried on a side is heard to the bit as it will be once it is applied, from wherever it is played', () => {
  const plan = planOf([{ tape: 'tape', from: 0, to: LENGTH, sound: 'tape' }], () => facts)
  const asked: [number, number][] = []
  const read = (_: string, __: number, from: number, to: number) => {
    asked.push([from, to])
    return noise.subarray(from, to)
  }
  const applied = mended((from, to) => noise.subarray(from, to), steps, 0, LENGTH, LENGTH)
  for (let run = 0; run < 20; run++) {
    const pulled = renderer(plan, read)
    const from = Math.floor(random() * (LENGTH - 5000))
    const out = new Float32Array(4000)
    asked.length = 0
    pulled.pull(from, [out])
    expect(out.findIndex((sample, i) => sample !== applied[from + i])).toBe(-1)
    const [need] = pulled.needs(from, from + 4000)
    expect(asked.every(([a, b]) => a >= need.from && b <= need.to)).toBe(true)
  }
})

it('a figure that is turned is heard as if it had been so from the start', () => {
  const turned = (hertz: number, dB: number): MendStep[] => [
    { kind: 'lowCut', hertz, slope: 18 },
    { kind: 'dip', hertz: 500, dB, width: 1 },
    { kind: 'gain', dB: -3 },
  ]
  const heard = (some: MendStep[]) => {
    const one = { ...facts, sides: [{ name: '', channels: [0] as [number], trying: { steps: some } }] }
    const out = new Float32Array(4000)
    renderer(
      planOf([{ tape: 'tape', from: 0, to: LENGTH, sound: 'tape' }], () => one),
      (_, __, from, to) => noise.subarray(from, to),
    ).pull(3 * RATE, [out])
    return out
  }
  const orders = [turned(90, -6), turned(90, -12), turned(120, -12), turned(90, -6), turned(90, -12).slice(0, 2)]
  for (const some of orders) {
    const applied = mended((from, to) => noise.subarray(from, to), some, 3 * RATE, 3 * RATE + 4000, LENGTH)
    expect(heard(some).findIndex((sample, i) => sample !== applied[i])).toBe(-1)
  }
})

it('what a treatment takes away is the difference', () => {
  const away = { ...facts, sides: [{ name: '', channels: [0] as [number], trying: { steps, away: true as const } }] }
  const out = new Float32Array(4000)
  renderer(
    planOf([{ tape: 'tape', from: 0, to: LENGTH, sound: 'tape' }], () => away),
    (_, __, from, to) => noise.subarray(from, to),
  ).pull(5 * RATE, [out])
  const applied = mended((from, to) => noise.subarray(from, to), steps, 5 * RATE, 5 * RATE + 4000, LENGTH)
  expect(out.findIndex((sample, i) => sample !== Math.fround(noise[5 * RATE + i] - applied[i]))).toBe(-1)
})
