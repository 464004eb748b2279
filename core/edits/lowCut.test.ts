import { describe, expect, it } from 'vitest'
import { planOf, type TapeFacts } from '../render/plan'
import { renderAll, renderer } from '../render/render'
import { applyAll } from '../steps/document'
import { RATE, type Frames } from '../time'
import { actualityType, type Actuality } from './actuality'
import { edits } from './editList'
import { lowCutIn, lowCuts, setLowCut } from './lowCut'

/** A voice of 400 Hz over an engine of 35 Hz, a tape of 20 s. */
const LENGTH = 20 * RATE
const sound = Float32Array.from(
  { length: LENGTH },
  (_, i) => 0.2 * Math.sin((2 * Math.PI * 400 * i) / RATE) + 0.3 * Math.sin((2 * Math.PI * 35 * i) / RATE),
)
const facts: TapeFacts = {
  id: 'tape',
  frames: LENGTH,
  sides: [{ name: '', channels: [0] }],
  tone: { sound: 'tape', quiet: [{ from: 0, to: 4 * RATE }] },
}
const read = (_: string, __: number, from: Frames, to: Frames) => {
  const out = new Float32Array(to - from)
  for (let i = Math.max(0, -from); i < out.length && from + i < LENGTH; i++) out[i] = sound[from + i]
  return out
}
const piece = (spans: Actuality['spans']): Actuality => ({
  kind: 'actuality',
  slug: 'Engine',
  speaker: '',
  role: '',
  story: null,
  spans,
  head: 0,
  tail: 0,
})
const whole = piece([{ tape: 'tape', from: 0, to: LENGTH, sound: 'tape' }])
const heard = ({ spans }: Actuality) =>
  renderAll(
    planOf(spans, () => facts),
    read,
  )[0]

/** How much of a frequency there is between two places, as an amplitude. */
function amountOf(hertz: number, samples: Float32Array, from: Frames, to: Frames): number {
  let [sin, cos] = [0, 0]
  for (let i = from; i < to; i++) {
    sin += samples[i] * Math.sin((2 * Math.PI * hertz * i) / RATE)
    cos += samples[i] * Math.cos((2 * Math.PI * hertz * i) / RATE)
  }
  return (2 * Math.hypot(sin, cos)) / (to - from)
}

describe('a low cut over a passage', () => {
  const at = { from: 6 * RATE, to: 12 * RATE }
  const cut = applyAll(actualityType, whole, setLowCut(whole, at, 120))

  it('takes out what rumbles there, leaves the voice, and leaves all else to the bit', () => {
    const out = heard(cut)
    expect(amountOf(35, out, 7 * RATE, 11 * RATE)).toBeLessThan(0.3 * 0.03)
    expect(amountOf(400, out, 7 * RATE, 11 * RATE)).toBeCloseTo(0.2, 2)
    const soft = 0.02 * RATE
    const differs = out.findIndex((sample, i) => (i < at.from - soft || i >= at.to + soft) && sample !== sound[i])
    expect(differs).toBe(-1)
  })

  it('is no edit, tells where it is, and goes as it came', () => {
    expect(edits(cut.spans)).toEqual([])
    expect(lowCuts(cut)).toEqual([{ ...at, hertz: 120 }])
    expect(lowCutIn(cut, { from: 5 * RATE, to: 7 * RATE })).toBe(120)
    expect(lowCutIn(cut, { from: 0, to: 5 * RATE })).toBeNull()
    const back = actualityType.invert(whole, setLowCut(whole, at, 120)[0])
    expect(actualityType.apply(cut, back)).toEqual(whole)
  })

  it('is heard the same from wherever it is played', () => {
    const out = heard(cut)
    const plan = planOf(cut.spans, () => facts)
    for (const from of [5.99, 6, 7.123, 8, 11.9].map((seconds) => Math.round(seconds * RATE))) {
      const block = new Float32Array(3000)
      renderer(plan, read).pull(from, [block])
      expect(block).toEqual(out.slice(from, from + 3000))
    }
  })

  it('holds for room within it, held or added', () => {
    const held = { tape: 'tape', from: 8 * RATE, to: 10 * RATE, sound: 'tone' } as const
    const added = { tape: 'tape', from: 10 * RATE, to: 12 * RATE, sound: 'room' } as const
    const spans = [{ ...whole.spans[0], to: 8 * RATE }, held, added, { ...whole.spans[0], from: 12 * RATE }]
    const paused = piece(spans)
    const all = applyAll(actualityType, paused, setLowCut(paused, { from: 0, to: 14 * RATE }, 120))
    expect(all.spans[2].lowCut).toBeUndefined()
    expect(amountOf(35, heard(paused), 8.5 * RATE, 9.5 * RATE)).toBeGreaterThan(0.1)
    expect(amountOf(35, heard(all), 8.5 * RATE, 9.5 * RATE)).toBeLessThan(0.02)
    expect(amountOf(35, heard(all), 10.5 * RATE, 11.5 * RATE)).toBeLessThan(0.02)
  })
})
