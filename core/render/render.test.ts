import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { editList, TAPE_LENGTH } from '../edits/arbitrary'
import { listLength, normal, plainJoin, type EditList } from '../edits/editList'
import { shapeLevel } from '../edits/levelLine'
import { actualityType } from '../edits/actuality'
import { part, planOf, withSides, type FactsOf, type TapeFacts } from './plan'
import { random } from '../sound/random'
import { renderAll, renderer, type ReadSound } from './render'

const noise = (seed: number) => {
  const next = random(seed)
  return Float32Array.from({ length: TAPE_LENGTH }, () => next() - 0.5)
}
const sounds: Record<string, Float32Array[]> = { a: [noise(1)], b: [noise(2), noise(3)], flat: [new Float32Array(TAPE_LENGTH).fill(0.5)] }
const read: ReadSound = (sound, channel, from, to) => {
  const out = new Float32Array(to - from)
  const samples = sounds[sound][channel]
  for (let i = Math.max(0, -from); i < out.length && from + i < samples.length; i++) out[i] = samples[from + i]
  return out
}
const facts = (tape: string): TapeFacts => ({
  id: tape,
  frames: TAPE_LENGTH,
  sides: tape === 'b' ? [{ name: '', channels: [0, 1] }] : [{ name: '', channels: [0] }],
  tone: {
    sound: tape,
    quiet: [
      { from: 0, to: 20_000 },
      { from: 40_000, to: 90_000 },
    ],
  },
})

describe('renderer', () => {
  it('gives the same frames whatever the block sizes, and as many as the document says', () =>
    fc.assert(
      fc.property(editList, fc.array(fc.integer({ min: 1, max: 3000 }), { minLength: 1, maxLength: 5 }), (list, sizes) => {
        const plan = planOf(list, facts, { length: 300, shape: 'power' }, { length: 200, shape: 'gain' })
        const all = renderAll(plan, read)
        expect(all[0].length).toBe(listLength(list))
        const pulled = renderer(plan, read)
        let at = 0
        for (let i = 0; at < plan.length; i++) {
          const count = Math.min(sizes[i % sizes.length], plan.length - at)
          const block = Array.from({ length: plan.channels }, () => new Float32Array(count))
          pulled.pull(at, block)
          block.forEach((channel, c) =>
            expect(Buffer.compare(Buffer.from(channel.buffer), Buffer.from(all[c].slice(at, at + count).buffer))).toBe(0),
          )
          at += count
        }
      }),
      { numRuns: 60 },
    ))

  it('leaves untouched sound untouched, to the bit', () => {
    const [out] = renderAll(planOf([{ tape: 'a', from: 500, to: 9000, sound: 'tape' }], facts), read)
    expect(out).toEqual(sounds.a[0].slice(500, 9000))
  })

  it('keeps even sound even through a crossfade of equal gain', () => {
    const join = { ...plainJoin(), fade: 400, shape: 'gain' as const }
    const list = normal([
      { tape: 'flat', from: 1000, to: 3000, sound: 'tape' },
      { tape: 'flat', from: 6000, to: 9000, sound: 'tape', join },
    ])
    for (const sample of renderAll(planOf(list, facts), read)[0]) expect(sample).toBeCloseTo(0.5, 6)
  })

  it('keeps the power of unlike sounds through a crossfade of equal power', () => {
    const join = { ...plainJoin(), fade: 4000 }
    const list = normal([
      { tape: 'a', from: 1000, to: 9000, sound: 'tape' },
      { tape: 'a', from: 40_000, to: 48_000, sound: 'tape', join },
    ])
    const [out] = renderAll(planOf(list, facts), read)
    const power = (from: number, to: number) => out.slice(from, to).reduce((sum, x) => sum + x * x, 0) / (to - from)
    expect(10 * Math.log10(power(6500, 9500) / power(0, 5000))).toBeCloseTo(0, 0)
  })

  it('never fades where a cut was only marked and the sound runs on', () => {
    const list = normal([
      { tape: 'a', from: 0, to: 5000, sound: 'tape' },
      { tape: 'a', from: 5000, to: 9000, sound: 'tape', join: plainJoin() },
    ])
    expect(list).toHaveLength(2)
    expect(renderAll(planOf(list, facts), read)[0]).toEqual(sounds.a[0].slice(0, 9000))
  })

  it('is never digitally silent where time is held', () => {
    const list = normal([
      { tape: 'a', from: 0, to: 5000, sound: 'tape' },
      { tape: 'a', from: 5000, to: 60_000, sound: 'tone', join: plainJoin() },
    ])
    const [out] = renderAll(planOf(list, facts), read)
    for (let at = 0; at < out.length; at += 480) expect(out.slice(at, at + 480).some((x) => x !== 0)).toBe(true)
  })

  it('follows a level line with its frames', () => {
    const document = {
      kind: 'actuality' as const,
      slug: '',
      speaker: '',
      role: '',
      story: null,
      head: 0,
      tail: 0,
      spans: normal([{ tape: 'flat', from: 2000, to: 12_000, sound: 'tape' }]),
    }
    const [step] = shapeLevel(document, { from: 2000, to: 8000 }, () => -6, 480)
    const after = actualityType.apply(document, step)
    expect(after.spans).toHaveLength(1)
    const [out] = renderAll(planOf(after.spans, facts), read)
    expect(out[1000]).toBeCloseTo(0.5, 5)
    expect(20 * Math.log10(out[5000] / 0.5)).toBeCloseTo(-6, 3)
    expect(out[9500]).toBeCloseTo(0.5, 5)
  })

  it('gives a part as it stands in the whole', () =>
    fc.assert(
      fc.property(editList, (list) => {
        const plan = planOf(list, facts, { length: 300, shape: 'power' }, { length: 200, shape: 'gain' })
        const middle = Math.floor(plan.length / 3)
        const cut = part(plan, middle, plan.length)
        expect(renderAll(cut, read)[0]).toEqual(renderAll(plan, read)[0].slice(middle))
      }),
      { numRuns: 40 },
    ))
})

describe('sides', () => {
  const two: TapeFacts['sides'] = [
    { name: 'Tamsin Roe', channels: [0] },
    { name: 'Maren Ferris', channels: [1] },
  ]
  const whole = [{ tape: 'b', from: 20_000, to: 30_000, sound: 'tape' as const }]
  const heard = (sides: TapeFacts['sides'], list: EditList = whole) =>
    renderAll(planOf(list, withSides(facts, { sides: { b: sides } })), read)[0]
  const [left, right] = sounds.b
  /** How far off it is at most. */
  const off = (got: Float32Array, wanted: (i: number) => number, from = 0, to = got.length) => {
    let most = 0
    for (let i = from; i < to; i++) most = Math.max(most, Math.abs(got[i] - wanted(i)))
    return most
  }

  it('are heard together in the middle', () => expect(off(heard(two), (i) => left[20_000 + i] + right[20_000 + i])).toBeLessThan(1e-6))
  it('have a level each, and can be turned over', () =>
    expect(
      off(
        heard([
          { ...two[0], level: -6 },
          { ...two[1], flip: true },
        ]),
        (i) => left[20_000 + i] * 10 ** (-6 / 20) - right[20_000 + i],
      ),
    ).toBeLessThan(1e-6))
  it('slip against each other, and nothing else moves', () => {
    expect(off(heard([two[0], { ...two[1], slip: 480 }]), (i) => left[20_000 + i] + right[20_000 - 480 + i])).toBeLessThan(1e-6)
    expect(heard([two[0], { ...two[1], slip: 480 }])).toHaveLength(10_000)
  })
  it('down to one is that one alone', () => expect(off(heard([two[1]]), (i) => right[20_000 + i])).toBeLessThan(1e-6))
  it('hushed for a stretch give way to their room tone there, the other side goes on', () => {
    const hushed = heard([two[0], { ...two[1], hush: [{ from: 23_000, to: 26_000 }] }])
    expect(off(hushed, (i) => left[20_000 + i] + right[20_000 + i], 0, 2500)).toBeLessThan(1e-6)
    expect(off(hushed, (i) => left[20_000 + i] + right[20_000 + i], 6500)).toBeLessThan(1e-6)
    const rest = hushed.slice(3500, 5500).map((sample, i) => sample - left[23_500 + i])
    expect(rest.some((sample) => Math.abs(sample) > 0.01)).toBe(true)
    expect(rest.every((sample, i) => sample === right[23_500 + i])).toBe(false)
    // no jump at either edge: it is never louder than both together
    expect(Math.max(...hushed.map(Math.abs))).toBeLessThan(1.3)
  })
  it('hushed stay hushed whatever the cuts, and no frame is lost', () => {
    const sides = [
      two[0],
      {
        ...two[1],
        hush: [
          { from: 0, to: 15_000 },
          { from: 14_000, to: 28_000 },
        ],
      },
    ]
    const cut = normal([
      { tape: 'b', from: 21_000, to: 24_000, sound: 'tape' },
      { tape: 'b', from: 27_000, to: 30_000, sound: 'tape', join: plainJoin() },
    ])
    expect(heard(sides, cut)).toHaveLength(6000)
    expect(off(heard(sides, cut), (i) => left[24_000 + i] + right[24_000 + i], 4500)).toBeLessThan(1e-6)
  })
  it('of a piece are its own: what is set on the tape later changes nothing of it', () => {
    const later: FactsOf = (tape) => ({ ...facts(tape), sides: [{ name: '', channels: [0], level: -20 }] })
    const piece = { spans: whole, sides: { b: two } }
    expect(renderAll(planOf(piece.spans, withSides(later, piece)), read)[0]).toEqual(heard(two))
    expect(withSides(later, {})('b').sides).toHaveLength(1)
  })
})
