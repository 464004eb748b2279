import { expect, it } from 'vitest'
import { exchange } from '../steps/document'
import { planOf, type TapeFacts } from '../render/plan'
import { renderAll } from '../render/render'
import { isMadeTone, madeFor, renditionIn, soundOf, switched, tapeOf, toneOf } from './renditions'
import { tapeType, type Rendition, type Side, type TapeDocument, type TapeStep } from './tape'

const made: Rendition = { id: 'r', kind: 'rendition', channels: [1], name: 'Turned over', treatment: { kind: 'polarity' } }
const sides: Side[] = [
  { name: 'Piet', channels: [0] },
  { name: 'Tamsin', channels: [1] },
]
const facts = (fields: Partial<TapeFacts> = {}): TapeFacts => ({
  id: 't',
  frames: 100_000,
  sides: switched(sides, [made]),
  renditions: ['r'],
  tone: { sound: 't', quiet: [{ from: 0, to: 60_000 }] },
  ...fields,
})

it('names what sounds, and tells names apart', () => {
  const [piet, tamsin] = facts().sides
  expect([soundOf(facts(), piet), soundOf(facts(), tamsin), toneOf(facts(), tamsin)]).toEqual(['t', 't.r', 't.r'])
  const toned = facts({ tone: { sound: 't.tone', quiet: [] } })
  expect([toneOf(toned, piet), toneOf(toned, tamsin)]).toEqual(['t.tone', 't.r-tone'])
  // what is not made yet sounds as recorded
  expect(soundOf(facts({ renditions: [] }), tamsin)).toBe('t')
  expect(['t', 't.tone', 't.r', 't.r-tone'].map((sound) => [tapeOf(sound), renditionIn(sound), isMadeTone(sound)])).toEqual([
    ['t', null, false],
    ['t', null, true],
    ['t', 'r', false],
    ['t', 'r', true],
  ])
})

it('is switched on and off for all sides that have one', () => {
  const after = switched(sides, [made, { ...made, id: 'newer' }])
  expect(after.map(({ rendition }) => rendition)).toEqual([undefined, 'newer'])
  expect(switched(after, [made])).toEqual(sides)
})

it('what was made for one piece is for no other, nor for the tape', () => {
  const own = { ...made, id: 'own', piece: 'p' }
  expect(madeFor([made, own]).map(({ id }) => id)).toEqual(['r'])
  expect(madeFor([made, own], 'other').map(({ id }) => id)).toEqual(['r'])
  expect(switched(sides, madeFor([made, own], 'p')).map(({ rendition }) => rendition)).toEqual([undefined, 'own'])
})

it('the plan reads sound and room of what is heard, side by side', () => {
  const list = [
    { tape: 't', from: 1000, to: 20_000, sound: 'tape' as const },
    { tape: 't', from: 20_000, to: 40_000, sound: 'tone' as const },
  ]
  const plan = planOf(list, () => facts())
  expect(new Set(plan.strips.map(({ sound, channel }) => `${sound}/${channel}`))).toEqual(new Set(['t/0', 't.r/1']))
  const [heard] = renderAll(plan, (sound, _, from, to) => new Float32Array(to - from).fill(sound === 't.r' ? 0.25 : 0))
  expect(heard[5000]).toBe(0.25)
  expect(heard[30_000]).toBeGreaterThan(0.2)
})

it('none goes while a side is heard from it', () => {
  const tape: TapeDocument = {
    kind: 'tape',
    records: {
      tape: { id: 'tape', kind: 'tape', name: '', speaker: '', role: '', day: '', tags: [], stories: [], sides },
      r: made,
    },
  }
  const hear: TapeStep = { type: 'set', id: 'tape', key: 'sides', value: switched(sides, [made]) }
  const drop: TapeStep = { type: 'drop', id: 'r' }
  expect(() => tapeType.apply(tapeType.apply(tape, hear), drop)).toThrow('belongs to it')
  expect(exchange(tapeType, [hear], [drop])).toBeNull()
  expect(tapeType.apply(tape, drop).records).not.toHaveProperty('r')
})
