import { describe, expect, it } from 'vitest'
import type { Move, PaintStep } from './actualitySteps'
import { actualityType, type Actuality, type ActualityStep } from './actuality'
import { plainJoin } from './editList'
import { rebased } from './rebasing'

/** A piece of 10,000 frames whose every stretch tells where it is from. */
const start: Actuality = {
  kind: 'actuality',
  slug: '',
  speaker: '',
  role: '',
  story: null,
  head: 0,
  tail: 0,
  spans: [{ tape: 'a', from: 0, to: 10_000, sound: 'tape' }],
}
const join = plainJoin()
const out = (from: number, to: number): ActualityStep => ({ type: 'replace', from, to, insert: [], after: join })
const putIn = (at: number, length: number): ActualityStep => ({
  type: 'replace',
  from: at,
  to: at,
  insert: [{ tape: 'b', from: 0, to: length, sound: 'tape', join }],
  after: join,
})
const room = (at: number, length: number): ActualityStep => ({
  type: 'replace',
  from: at,
  to: at,
  insert: [{ tape: 'a', from: 0, to: length, sound: 'room', join }],
  after: join,
})
const move = (from: number, to: number, at: number): Move => ({ type: 'move', from, to, at, closing: join, first: join, after: join })
const mute = (from: number, to: number): PaintStep => ({ type: 'paint', parts: [{ what: 'mute', from, to, value: true }] })
/** A louder stretch of the level line; the line is painted over all of the span. */
const louder = (from: number, to: number): PaintStep => ({
  type: 'paint',
  parts: [{ what: 'line', from: 0, to: 10_000, over: { from, to }, points: [from, to].map((at) => ({ at, dB: 3 })) }],
})
const noLine: PaintStep = { type: 'paint', parts: [{ what: 'line', from: 0, to: 10_000, over: null, points: [] }] }
const softer = (from: number, to: number, side = 0): PaintStep => ({ type: 'paint', parts: [{ what: 'level', from, to, side, value: -6 }] })
const gain: ActualityStep = { type: 'set', key: 'gain', value: 3 }
const slug: ActualityStep = { type: 'set', key: 'slug', value: 'the boat' }

const apply = (document: Actuality, ...steps: ActualityStep[]) => steps.reduce((now, step) => actualityType.apply(now, step), document)
/** What stands where: frames of tape, and what is painted on them. */
const heard = ({ spans }: Actuality) =>
  spans.map(
    ({ tape, from, to, mute: muted, levels, level }) =>
      `${tape} ${from}-${to}${muted ? ' muted' : ''}${levels ? ` ${levels.join()} dB` : ''}` +
      (level ? ` line ${level.map(({ at }) => at).join()}` : ''),
  )

describe('two acts that do not meet', () => {
  it.each<[string, ActualityStep, ActualityStep, string[]]>([
    ['two passages taken out', out(1000, 2000), out(5000, 6000), ['a 0-1000', 'a 2000-5000', 'a 6000-10000']],
    ['one taken out, one put in after it', out(1000, 2000), putIn(5000, 300), ['a 0-1000', 'a 2000-5000', 'b 0-300', 'a 5000-10000']],
    ['one taken out, one muted before it', mute(500, 900), out(1000, 2000), ['a 0-500', 'a 500-900 muted', 'a 900-1000', 'a 2000-10000']],
    [
      'a passage taken out of what is muted',
      mute(1000, 5000),
      out(2000, 3000),
      ['a 0-1000', 'a 1000-2000 muted', 'a 3000-5000 muted', 'a 5000-10000'],
    ],
    [
      'room added within what is softer',
      softer(1000, 5000),
      room(2000, 100),
      ['a 0-1000', 'a 1000-2000 -6 dB', 'a 0-100', 'a 2000-5000 -6 dB', 'a 5000-10000'],
    ],
    [
      'a mute and a level over one another',
      mute(1000, 5000),
      softer(3000, 6000),
      ['a 0-1000', 'a 1000-3000 muted', 'a 3000-5000 muted -6 dB', 'a 5000-6000 -6 dB', 'a 6000-10000'],
    ],
    [
      'the levels of two sides over one another',
      softer(1000, 3000),
      softer(2000, 4000, 1),
      ['a 0-1000', 'a 1000-2000 -6 dB', 'a 2000-3000 -6,-6 dB', 'a 3000-4000 0,-6 dB', 'a 4000-10000'],
    ],
    [
      'what is muted goes along with its passage',
      move(1000, 4000, 8000),
      mute(2000, 3000),
      ['a 0-1000', 'a 4000-8000', 'a 1000-2000', 'a 2000-3000 muted', 'a 3000-4000', 'a 8000-10000'],
    ],
    [
      'a cut within a passage that is moved',
      move(1000, 4000, 8000),
      out(2000, 3000),
      ['a 0-1000', 'a 4000-8000', 'a 1000-2000', 'a 3000-4000', 'a 8000-10000'],
    ],
    [
      'a move within a passage that is moved',
      move(1000, 6000, 8000),
      move(2000, 3000, 4000),
      ['a 0-1000', 'a 6000-8000', 'a 1000-2000', 'a 3000-4000', 'a 2000-3000', 'a 4000-6000', 'a 8000-10000'],
    ],
    [
      'a mute that reaches over the edge of what is moved',
      mute(500, 1500),
      move(1000, 2000, 5000),
      ['a 0-500', 'a 500-1000 muted', 'a 2000-5000', 'a 1000-1500 muted', 'a 1500-2000', 'a 5000-10000'],
    ],
    [
      'a mute, and something put in where it ends',
      mute(1000, 2000),
      putIn(2000, 100),
      ['a 0-1000', 'a 1000-2000 muted', 'b 0-100', 'a 2000-10000'],
    ],
    [
      'a level line and a far cut in the same span',
      louder(1000, 3000),
      out(5000, 6000),
      ['a 0-5000 line 1000,3000', 'a 6000-10000 line 1000,3000'],
    ],
    [
      'a level line and a passage taken out of it',
      louder(1000, 3000),
      out(2000, 6000),
      ['a 0-2000 line 1000,3000', 'a 6000-10000 line 1000,3000'],
    ],
    ['two stretches of one level line', louder(1000, 3000), louder(5000, 6000), ['a 0-10000 line 1000,3000,5000,6000']],
    [
      'a level line and a passage that goes from its span',
      louder(1000, 3000),
      move(2000, 4000, 8000),
      ['a 0-2000 line 1000,3000', 'a 4000-8000 line 1000,3000', 'a 2000-4000 line 1000,3000', 'a 8000-10000 line 1000,3000'],
    ],
    ['a gain and a cut', gain, out(1000, 2000), ['a 0-1000', 'a 2000-10000']],
  ])('%s: both count, whichever comes first', (_, one, other, expected) => {
    const [mine, theirs] = [rebased(one, other), rebased(other, one)]
    expect(mine && theirs).toBeTruthy()
    const both = [apply(start, other, mine!), apply(start, one, theirs!)]
    expect(heard(both[0])).toEqual(expected)
    expect(both[1]).toEqual(both[0])
  })
})

describe('two acts at one place', () => {
  it.each<[string, ActualityStep, ActualityStep]>([
    ['passages that overlap are taken out', out(1000, 3000), out(2000, 4000)],
    ['passages that touch are taken out', out(1000, 2000), out(2000, 3000)],
    ['something is put in where something is taken out', putIn(1500, 100), out(1000, 2000)],
    ['the same is muted twice', mute(1000, 3000), mute(2000, 4000)],
    ['one side’s level is set twice', softer(1000, 3000), softer(2000, 4000)],
    ['a passage goes where something is taken out', move(1000, 2000, 5000), out(4500, 5500)],
    ['two moves cross', move(1000, 4000, 8000), move(3000, 5000, 0)],
    ['a join is changed that goes', { type: 'join', at: 1500, join }, out(1000, 2000)],
    ['one stretch of a level line is drawn twice', louder(1000, 3000), louder(3000, 4000)],
    ['a level line is drawn, and taken off', louder(1000, 3000), noLine],
    ['one join is changed twice', { type: 'join', at: 1500, join }, { type: 'join', at: 1500, join: { ...join, fade: 10 } }],
    ['one property is set twice', gain, { type: 'set', key: 'gain', value: 0 }],
  ])('%s: one of them is refused, whichever comes first', (_, one, other) => {
    expect(rebased(one, other)).toBeNull()
    expect(rebased(other, one)).toBeNull()
  })
})

describe('what never collides', () => {
  it('is a join that was played: it holds nobody up, and says nothing of a join that has changed', () => {
    const played: ActualityStep = { type: 'heard', at: 1500, heard: true }
    expect(rebased(out(1000, 2000), played)).toEqual(out(1000, 2000))
    expect(rebased(played, out(1000, 2000))).toEqual({ ...played, at: null })
    expect(rebased(played, out(100, 200))).toEqual({ ...played, at: 1400 })
    expect(rebased(played, move(1000, 2000, 5000))).toEqual({ ...played, at: 4500 })
    expect(rebased(played, { type: 'join', at: 1500, join })).toEqual({ ...played, at: null })
  })

  it('is two properties', () => {
    expect(rebased(gain, slug)).toEqual(gain)
    expect(rebased(slug, gain)).toEqual(slug)
  })
})
