import { describe, expect, it } from 'vitest'
import { renderAll } from '../render/render'
import { planOf, type TapeFacts } from '../render/plan'
import { piecePlan } from '../page/plan'
import { applyAll } from '../steps/document'
import { actualityType, clipLength, type Actuality, type ActualityStep } from './actuality'
import { cuts, edits, plainJoin, type Join, type Span } from './editList'
import { endFades, longestFade, overlap, setEndFade, setFade, setFades, unsplit } from './fades'

const framesOf = () => 100_000
const span = (from: number, to: number, join?: Partial<Join>): Span => ({
  tape: 'a',
  from,
  to,
  sound: 'tape',
  ...(join ? { join: { ...plainJoin(), ...join } } : {}),
})
const piece = (spans: Span[], more: Partial<Actuality> = {}): Actuality => ({
  kind: 'actuality',
  slug: '',
  speaker: '',
  role: '',
  story: null,
  spans,
  head: 1000,
  tail: 500,
  ...more,
})
const done = (document: Actuality, steps: ActualityStep[]) => applyAll(actualityType, document, steps)
const facts = (id: string): TapeFacts => ({ id, frames: 100_000, sides: [{ name: '', channels: [0] }], tone: { sound: id, quiet: [] } })

describe('a crossfade', () => {
  const cut = piece([span(0, 10_000), span(20_000, 20_400, { heard: true }), span(50_000, 60_000, {})])
  it('is as long as it is set, and then to be heard again', () => {
    const after = done(cut, setFade(cuts(cut.spans)[0], { fade: 300, shape: 'gain' }, framesOf))
    expect(after.spans[1].join).toMatchObject({ fade: 300, shape: 'gain', heard: false })
    expect(setFade(cuts(after.spans)[0], { fade: 300, shape: 'gain' }, framesOf)).toEqual([])
  })
  it('is no longer than the sound it lies over', () => {
    expect(longestFade(cuts(cut.spans)[0], framesOf)).toBe(400)
    expect(longestFade(cuts(piece([span(0, 9000), span(90, 9000, {})]).spans)[0], framesOf)).toBe(180)
  })
  it('is set at all joins at once; where it does not fit it is shortened or left, and counted', () => {
    const many = piece([...cut.spans, span(60_000, 70_000, { origin: 'split', fade: 0 }), span(80_000, 80_010, {}), span(100, 9000, {})])
    const { steps, shortened, left } = setFades(cuts(many.spans), { fade: 1000, shape: 'power' }, framesOf)
    // two stand beside 400 frames, two beside 10, one is a split
    expect([shortened, left]).toEqual([2, 3])
    expect(cuts(done(many, steps).spans).map(({ join }) => join.fade)).toEqual([400, 400, 0, 384, 384])
  })
})

describe('an overlap', () => {
  const cut = piece([span(0, 10_000), span(20_000, 30_000, { fade: 400 })])
  const [only] = edits(cut.spans)
  it('has what comes begin sooner, and loses nothing of either side', () => {
    const after = done(cut, overlap(cut, only, 2000))
    expect(clipLength(after)).toBe(18_000)
    const [{ left, right, join }] = cuts(after.spans)
    expect(join.fade).toBe(2400)
    // what is heard of either side ends and begins where it did
    expect([left.to + join.fade / 2, right.from - join.fade / 2]).toEqual([10_200, 19_800])
    expect([after.head, after.tail]).toEqual([1000, 500])
  })
  it('is taken back', () => {
    const after = done(cut, overlap(cut, only, 2000))
    expect(done(after, overlap(after, edits(after.spans)[0], -2000)).spans).toEqual(
      done(cut, [{ type: 'join', at: only.at, join: { ...only.join, heard: false } }]).spans,
    )
  })
  it('is as long as there is room for', () => {
    const after = done(cut, overlap(cut, only, 90_000))
    expect(cuts(after.spans)[0].join.fade).toBeLessThanOrEqual(longestFade(cuts(after.spans)[0], framesOf))
  })
})

describe('the ends of a piece', () => {
  const whole = piece([span(0, 10_000)])
  it('fade over the handles, or as they are set', () => {
    expect(endFades(whole)).toEqual({ in: { length: 1000, shape: 'gain' }, out: { length: 500, shape: 'gain' } })
    const set = done(whole, setEndFade(whole, 'fadeOut', { length: 99_000, shape: 'power' }))
    expect(endFades(set).out).toEqual({ length: 10_000, shape: 'power' })
    expect(endFades(done(set, setEndFade(set, 'fadeOut', null)))).toEqual(endFades(whole))
  })
  it('are heard so, and the gain of the whole with them', () => {
    const set = piece([span(0, 10_000)], { fadeIn: { length: 4000, shape: 'gain' }, gain: 20 })
    const [out] = renderAll(piecePlan(set, facts), (_, __, from, to) => new Float32Array(to - from).fill(0.05))
    expect(out[1999]).toBeCloseTo(0.25, 3)
    expect(out[5000]).toBeCloseTo(0.5, 5)
  })
})

it('a split is taken out again where the sound runs on, and only there', () => {
  const split = piece([span(0, 4000), span(4000, 9000, { origin: 'split', fade: 0 }), span(20_000, 30_000, {})])
  expect(done(split, unsplit(split, 4000)).spans).toEqual([span(0, 9000), span(20_000, 30_000, {})])
  expect(unsplit(split, 9000)).toEqual([])
  // and a split is not heard while it is there
  const read = (_: string, __: number, from: number, to: number) => Float32Array.from({ length: to - from }, (___, i) => Math.sin(from + i))
  expect(renderAll(planOf(split.spans, facts), read)[0].slice(0, 8000)).toEqual(
    renderAll(planOf([span(0, 9000)], facts), read)[0].slice(0, 8000),
  )
})
