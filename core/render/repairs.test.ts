import { expect, it } from 'vitest'
import { noise } from '../sound/noise'
import { REPAIR_REACH, type Repair } from '../mend/repair'
import type { Side } from '../tape/tape'
import { RATE } from '../time'
import { planOf, type TapeFacts } from './plan'
import { renderAll, renderer, type ReadSound } from './render'

const sound = noise(2 * RATE, 0.5)
const read: ReadSound = (_, __, from, to) => Float32Array.from({ length: to - from }, (___, i) => sound[from + i] ?? 0)
const repairs: Repair[] = [
  { from: 30_000, to: 30_120, how: 'bridge' },
  { from: 50_000, to: 56_000, how: 'lowEnd' },
]
const facts = (side: Partial<Side>): TapeFacts => ({
  id: 'tape',
  frames: 2 * RATE,
  sides: [{ name: '', channels: [0], ...side }],
  tone: { sound: 'tape', quiet: [] },
})
const planWith = (side: Partial<Side>) => planOf([{ tape: 'tape', from: 20_000, to: 80_000, sound: 'tape' }], () => facts(side))

it('a side is heard repaired, the same in blocks of any size, and as recorded outside of its repairs', () => {
  const [plain] = renderAll(planWith({}), read)
  const plan = planWith({ repairs })
  const [whole] = renderAll(plan, read)
  const changed = whole.reduce<number[]>((all, sample, i) => (sample === plain[i] ? all : [...all, i + 20_000]), [])
  expect(changed.length).toBeGreaterThan(1000)
  expect(changed.every((frame) => repairs.some(({ from, to }) => frame >= from && frame < to))).toBe(true)
  const { pull } = renderer(plan, read)
  for (let at = 0; at < plan.length; at += 777) {
    const block = [new Float32Array(Math.min(777, plan.length - at))]
    pull(at, block)
    expect(block[0]).toEqual(whole.slice(at, at + block[0].length))
  }
})

it('asks for the frames that a repair looks at', () => {
  const { needs } = renderer(planWith({ repairs }), read)
  expect(needs(10_050, 10_060)).toEqual([{ sound: 'tape', channel: 0, from: 30_000 - REPAIR_REACH, to: 30_120 + REPAIR_REACH }])
  expect(needs(0, 100)).toEqual([{ sound: 'tape', channel: 0, from: 20_000, to: 20_100 }])
})
