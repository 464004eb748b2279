import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyAll, applyAndInvert } from '../steps/document'
import { actualityType, clipLength, type Actuality, type ActualityStep } from './actuality'
import { holdTime, takeOut } from './acts'
import { nicks } from './gone'
import { edits } from './editList'
import { changeGap, changeGaps, changePause, freeBeside, holdOrClose, pauseWithin } from './gaps'

const whole: Actuality = {
  kind: 'actuality',
  slug: '',
  speaker: '',
  role: '',
  story: null,
  spans: [{ tape: 'a', from: 10_000, to: 20_000, sound: 'tape' }],
  head: 0,
  tail: 0,
}
const done = (piece: Actuality, steps: ActualityStep[]) => applyAll(actualityType, piece, steps)
const cut = done(whole, takeOut(whole, { from: 3000, to: 5000 }))
const only = (piece: Actuality) => edits(piece.spans)[0]
const free = { left: 300, right: 100 }

describe('a gap at a cut', () => {
  it('grows by room tone, in one run, and shrinks to where it was', () => {
    const longer = done(cut, changeGap(cut, only(cut), 400, free))
    expect(longer.spans.map(({ sound, from, to }) => [sound, to - from])).toEqual([
      ['tape', 3000],
      ['room', 400],
      ['tape', 5000],
    ])
    const more = done(longer, changeGap(longer, only(longer), 200, free))
    expect(more.spans.map(({ from, to }) => to - from)).toEqual([3000, 600, 5000])
    const back = done(more, changeGap(more, only(more), -9000, free))
    // the room goes first, then what lies free beside the words
    expect(back.spans.map(({ from, to }) => [from, to])).toEqual([
      [10_000, 12_700],
      [15_100, 20_000],
    ])
    expect(done(more, changeGap(more, only(more), -600, free)).spans.map(({ from, to }) => [from, to])).toEqual(
      cut.spans.map(({ from, to }) => [from, to]),
    )
  })

  it('shrinks into the pause, more of the longer side, and never into a word', () => {
    const shorter = done(cut, changeGap(cut, only(cut), -200, free))
    expect([only(shorter).left.to, only(shorter).right.from]).toEqual([12_850, 15_050])
    const least = done(cut, changeGap(cut, only(cut), -5000, free))
    expect([only(least).left.to, only(least).right.from]).toEqual([12_700, 15_100])
    expect(changeGap(cut, only(cut), -100, { left: 0, right: 0 })).toEqual([])
  })

  it('gives back the piece when undone', () =>
    fc.assert(
      fc.property(fc.integer({ min: -800, max: 800 }), fc.nat(400), fc.nat(400), (by, left, right) => {
        const { document, inverse } = applyAndInvert(actualityType, cut, changeGap(cut, only(cut), by, { left, right }))
        expect(applyAll(actualityType, document, inverse)).toEqual(cut)
        expect(clipLength(document) - clipLength(cut)).toBe(by > 0 ? by : 0 - Math.min(-by, left + right))
      }),
    ))
})

it('time is held where it closed up, and closes up where it was held', () => {
  const held = done(cut, holdOrClose(cut, nicks(cut)[0]))
  expect(held.spans.map(({ from, to, sound }) => [from, to, sound])).toEqual(
    done(whole, holdTime(whole, { from: 3000, to: 5000 })).spans.map(({ from, to, sound }) => [from, to, sound]),
  )
  expect(done(held, holdOrClose(held, nicks(held)[0])).spans.map(({ from, to }) => [from, to])).toEqual(
    cut.spans.map(({ from, to }) => [from, to]),
  )
})

describe('a pause that nobody cut', () => {
  const pause = { from: 4000, to: 9000 }
  it('grows by room tone in its middle', () => {
    const longer = done(whole, changePause(whole, pause, 2400))
    expect(longer.spans.map(({ from, to, sound }) => [from, to, sound])).toEqual([
      [10_000, 16_500, 'tape'],
      [16_500, 18_900, 'room'],
      [16_500, 20_000, 'tape'],
    ])
  })
  it('shrinks in its middle, and not to nothing', () => {
    expect(done(whole, changePause(whole, pause, -2000)).spans.map(({ from, to }) => [from, to])).toEqual([
      [10_000, 15_500],
      [17_500, 20_000],
    ])
    expect(clipLength(done(whole, changePause(whole, pause, -90_000)))).toBe(10_000 - 5000 + 960)
    expect(changePause(whole, { from: 4000, to: 4900 }, -500)).toEqual([])
  })
})

describe('gaps among words', () => {
  const said = [
    { at: 1000, end: 2900 },
    { at: 3100, end: 6000 },
    { at: 6800, end: 7900 },
  ]
  it('are as long as nobody speaks', () => {
    expect(freeBeside(said, { at: 3000, room: 0 }, 8000)).toEqual({ left: 100, right: 100 })
    expect(freeBeside(said, { at: 500, room: 0 }, 8000)).toEqual({ left: 500, right: 500 })
    expect(freeBeside(said, { at: 7950, room: 0 }, 8000)).toEqual({ left: 50, right: 50 })
    expect(pauseWithin(said, { from: 2000, to: 7000 })).toEqual({ from: 6000, to: 6800 })
    expect(pauseWithin(said, { from: 3200, to: 5000 })).toBe(null)
    expect(pauseWithin([], { from: 3, to: 5 })).toEqual({ from: 3, to: 5 })
  })
  it('change at several cuts by as much, and where room tone stands only once', () => {
    const twice = done(cut, takeOut(cut, { from: 6100, to: 6500 }))
    const all = edits(twice.spans)
    expect(all).toHaveLength(2)
    const longer = done(twice, changeGaps(twice, all, 500, said))
    expect(clipLength(longer)).toBe(clipLength(twice) + 1000)
    // each is still one edit, with room added to it
    expect(edits(longer.spans).map(({ room }) => room)).toEqual([500, 500])
    expect(clipLength(done(longer, changeGaps(longer, edits(longer.spans), 500, said)))).toBe(clipLength(twice) + 2000)
    expect(done(longer, changeGaps(longer, edits(longer.spans), -500, said)).spans.filter(({ sound }) => sound === 'room')).toEqual([])
  })
})
