import { describe, expect, it } from 'vitest'
import { renderAll } from '../render/render'
import type { TapeFacts } from '../render/plan'
import { random as seeded } from '../sound/random'
import { applyAll } from '../steps/document'
import { RATE, type Frames } from '../time'
import {
  addLevelPoint,
  copyHanger,
  exchanged,
  levelPointAt,
  panFrom,
  setLevelPoint,
  setPanStop,
  slipHanger,
  splitHanger,
} from './hangerActs'
import { lay } from './lay'
import { pagePlan } from './plan'
import { hangersOf, newStory, storyType, type Hanger, type StoryDocument, type StoryStep } from './story'

const s = RATE
const bed: Hanger = {
  id: 'bed',
  kind: 'hanger',
  lane: 'lane',
  aside: false,
  plays: { tape: 'music', from: 2 * s, to: 12 * s },
  start: { at: s },
  end: null,
  gain: -6,
  level: [
    { at: 0, dB: 0 },
    { at: 4 * s, dB: -9 },
  ],
  fadeOut: s,
}
const story = (hanger: Partial<Hanger> = {}): StoryDocument =>
  newStory({ slug: '' }, { id: 'out' }, [
    { id: 'lane', kind: 'lane', name: 'Music', colour: 'voice', order: 'a0', locked: false, muted: false, gain: 0 },
    { ...bed, ...hanger },
  ])
const laid = (document: StoryDocument) => lay(document, { lengthOf: () => undefined })[0].file
const first = (document: StoryDocument) => laid(document).hangers[0]
const after = (document: StoryDocument, steps: StoryStep[]) => applyAll(storyType, document, steps)
const anchorOf = (at: Frames) => ({ at })
const facts: TapeFacts = { id: 'music', frames: 30 * s, sides: [{ name: '', channels: [0] }], tone: { sound: 'music', quiet: [] } }
const random = seeded(5)
const noise = Float32Array.from({ length: 30 * s }, () => random() - 0.5)
const heard = (document: StoryDocument): Float32Array =>
  renderAll(
    pagePlan(
      laid(document),
      () => undefined,
      () => facts,
    ),
    (_, __, from, to) => noise.subarray(from, to),
  )[0]

describe('a sound in a lane', () => {
  it('is split without being heard, with its level line', () => {
    const whole = story()
    const parts = after(whole, splitHanger(first(whole), 5 * s, anchorOf, 'second'))
    expect(hangersOf(parts)).toHaveLength(2)
    const [a, b] = [heard(whole), heard(parts)]
    expect(b).toHaveLength(a.length)
    let most = 0
    for (let i = 0; i < a.length; i++) most = Math.max(most, Math.abs(a[i] - b[i]))
    // the level line eases anew from the split on
    expect(most).toBeLessThan(0.02)
    expect(splitHanger(first(whole), s, anchorOf, 'second')).toEqual([])
    expect(splitHanger(first(story({ plays: { piece: 'a' } })), 5 * s, anchorOf, 'second')).toEqual([])
  })

  it.each([
    ['ends with its last note, its beginning left out', { start: { at: s }, end: { at: 9 * s }, by: 'end' as const }],
    ['ends with its last note, and is shorter than it might be', { start: { at: 0 }, end: { at: 14 * s }, by: 'end' as const }],
    ['repeats', { end: { at: 20 * s }, back: { from: 3 * s, to: 8 * s } }],
    ['repeats, and ends with its last note', { end: { at: 20 * s }, back: { from: 3 * s, to: 8 * s }, by: 'end' as const }],
  ])('is split without being heard where it %s', (_, fields) => {
    const whole = story({ ...fields, level: undefined, fadeOut: undefined })
    const one = first(whole)
    for (const share of [0.2, 0.45, 0.6, 0.93]) {
      const at = Math.round(one.from + share * (one.to - one.from))
      const parts = after(whole, splitHanger(one, at, anchorOf, 'second'))
      expect(hangersOf(parts)).toHaveLength(2)
      const [a, b] = [heard(whole), heard(parts)]
      expect(b).toHaveLength(a.length)
      expect(a.findIndex((sample, i) => Math.abs(sample - b[i]) > 0.0001)).toBe(-1)
    }
  })

  it('is split without being heard where it has no level line', () => {
    const whole = story({ level: undefined })
    const [a, b] = [heard(whole), heard(after(whole, splitHanger(first(whole), 5 * s, anchorOf, 'second')))]
    expect(a.findIndex((sample, i) => Math.abs(sample - b[i]) > 1e-6)).toBe(-1)
  })

  it('is copied as long as it is', () => {
    const twice = after(story(), copyHanger(first(story({ end: { at: 6 * s } })), 20 * s, anchorOf, 'again'))
    expect(laid(twice).hangers.find(({ hanger }) => hanger.id === 'again')).toMatchObject({ from: 20 * s, to: 25 * s })
  })

  it('is exchanged, and slipped inside its edges, as far as its tape goes', () => {
    const other = after(story(), exchanged(bed, { tape: 'other', from: 0, to: 8 * s }, 3.04))
    expect(hangersOf(other)[0]).toMatchObject({ plays: { tape: 'other' }, gain: -3, start: bed.start, fadeOut: s })
    const slipped = (by: Frames) => hangersOf(after(story(), slipHanger(first(story()), by, facts.frames)))[0].plays
    expect(slipped(s)).toMatchObject({ from: 3 * s, to: 13 * s })
    expect(slipped(-5 * s)).toMatchObject({ from: 0, to: 10 * s })
    expect(slipHanger(first(story({ plays: { tape: 'music', from: 0, to: 30 * s } })), s, facts.frames)).toEqual([])
  })

  it('is ridden by points', () => {
    const one = after(story(), addLevelPoint(first(story()), 3 * s))
    const [point] = [levelPointAt(first(one), 3 * s + 100)!]
    expect(point).toEqual({ at: 2 * s, dB: -4.5 })
    expect(addLevelPoint(first(one), 3 * s + 100)).toEqual([])
    const lower = after(one, setLevelPoint(first(one), point, { at: 2.5 * s, dB: -99 }))
    expect(hangersOf(lower)[0].level).toEqual([bed.level![0], { at: 2.5 * s, dB: -60 }, bed.level![1]])
    const none = (hangersOf(story())[0].level ?? []).reduce((now, each) => after(now, setLevelPoint(first(now), each, null)), story())
    expect(hangersOf(none)[0].level).toBeUndefined()
  })

  it('is heard from a place, and from another place later on', () => {
    const left = after(story(), panFrom(first(story()), 5 * s, -0.5))
    expect(hangersOf(left)[0].pan).toEqual([{ at: 0, to: -0.5 }])
    const across = after(left, panFrom(first(left), 6 * s, 0.5))
    expect(hangersOf(across)[0].pan).toEqual([
      { at: 0, to: -0.5 },
      { at: 5 * s, to: 0.5 },
    ])
    const still = after(across, setPanStop(first(across), 1, null))
    expect(hangersOf(after(still, setPanStop(first(still), 0, 0)))[0].pan).toBeUndefined()
  })
})
