import { expect, it } from 'vitest'
import type { TapeFacts } from '../render/plan'
import { renderAll } from '../render/render'
import { random as seeded } from '../sound/random'
import { RATE } from '../time'
import { lay } from './lay'
import { onlyLane, soundingLanes } from './onlyLane'
import { pagePlan } from './plan'
import { newStory, type Block, type Hanger, type Lane } from './story'

const s = RATE
const block = (id: string, kind: Block['kind'], order: string): Block => ({
  id,
  kind,
  order,
  aside: false,
  text: '',
  reader: '',
  piece: id,
})
const lane = (id: string, muted = false): Lane => ({ id, kind: 'lane', name: id, colour: 'ink', order: id, locked: false, muted, gain: 0 })
const hanger = (on: string): Hanger => ({
  id: `on ${on}`,
  kind: 'hanger',
  lane: on,
  aside: false,
  plays: { tape: 'quay', from: 5 * s, to: 8 * s },
  start: { at: s },
  end: null,
  gain: -3,
})
const story = newStory({ slug: '' }, { id: 'out' }, [
  block('line', 'copy', 'a0'),
  block('act', 'actuality', 'a1'),
  lane('sea'),
  lane('bed', true),
  lane('empty'),
  hanger('sea'),
  hanger('bed'),
])
const piece = (from: number) => ({
  kind: 'actuality' as const,
  slug: '',
  speaker: '',
  role: '',
  story: null,
  spans: [{ tape: 'quay', from: from * s, to: (from + 2) * s, sound: 'tape' as const }],
  head: 0,
  tail: 0,
})
const facts: TapeFacts = { id: 'quay', frames: 20 * s, sides: [{ name: '', channels: [0] }], tone: { sound: 'quay', quiet: [] } }
const random = seeded(9)
const noise = Float32Array.from({ length: 20 * s }, () => random() - 0.5)

it('gives each lane alone, as long as the page, and all of them together are the page', () => {
  const [{ file }] = lay(story, { lengthOf: () => ({ length: 2 * s, head: 0, tail: 0 }) })
  const heard = (layout: typeof file) =>
    renderAll(
      pagePlan(
        layout,
        (id) => piece(id === 'line' ? 1 : 12),
        () => facts,
      ),
      (_, __, from, to) => noise.subarray(from, to),
    )[0]
  const lanes = soundingLanes(file)
  expect(lanes.map(({ name }) => name)).toEqual(['Voice', 'Tape', 'sea'])
  const whole = heard(file)
  const parts = lanes.map((one) => heard(onlyLane(file, one.lane)))
  expect(parts.map((one) => one.length)).toEqual(parts.map(() => whole.length))
  const apart = whole.findIndex((sample, i) => Math.abs(sample - parts.reduce((sum, one) => sum + one[i], 0)) > 1e-6)
  expect(apart).toBe(-1)
  for (const one of parts) expect(one.some((sample) => sample !== 0)).toBe(true)
})

it('lets what ends sink under a block that begins before its words are over', () => {
  const overlapping = {
    ...story,
    records: { ...story.records, act: { ...(story.records.act as Block), gap: -s } },
  }
  const [{ file }] = lay(overlapping, { lengthOf: () => ({ length: 2 * s, head: 0, tail: 0 }) })
  const flat = new Float32Array(20 * s).fill(0.5)
  const voice = renderAll(
    pagePlan(
      onlyLane(file, 'voice'),
      () => piece(1),
      () => facts,
    ),
    (_, __, from, to) => flat.subarray(from, to),
  )[0]
  const both = renderAll(
    pagePlan(
      { ...file, hangers: [] },
      () => piece(1),
      () => facts,
    ),
    (_, __, from, to) => flat.subarray(from, to),
  )[0]
  const under = (second: number) => both[Math.round(second * s)] - 0.5
  // alone in its lane it sinks as well
  expect(voice[s / 2]).toBeCloseTo(0.5, 3)
  expect(voice[1.5 * s]).toBeCloseTo(under(1.5), 5)
  expect(under(1.1)).toBeGreaterThan(0.45)
  expect(under(1.5)).toBeCloseTo(0.5 * Math.SQRT1_2, 2)
  expect(under(1.95)).toBeLessThan(0.06)
})
