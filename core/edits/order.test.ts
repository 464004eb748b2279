import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyAll, applyAndInvert } from '../steps/document'
import { actualityType, clipLength, type Actuality } from './actuality'
import { piece, shareOf } from './arbitrary'
import { cuts, plainJoin, slice, toTape } from './editList'
import { besidePhrase, appended, movePassage, putIn } from './order'

const whole: Actuality = {
  kind: 'actuality',
  slug: '',
  speaker: '',
  role: '',
  story: null,
  spans: [{ tape: 'quay', from: 10_000, to: 20_000, sound: 'tape' }],
  head: 0,
  tail: 0,
}
const done = (document: Actuality, steps: ReturnType<typeof movePassage>) => applyAll(actualityType, document, steps)
const places = ({ spans }: Actuality) => spans.map(({ from, to }) => [from, to])

describe('a passage', () => {
  it('is moved earlier, later, to the start and to the end', () => {
    expect(places(done(whole, movePassage(whole, { from: 6000, to: 8000 }, 2000)))).toEqual([
      [10_000, 12_000],
      [16_000, 18_000],
      [12_000, 16_000],
      [18_000, 20_000],
    ])
    expect(places(done(whole, movePassage(whole, { from: 2000, to: 4000 }, 8000)))).toEqual([
      [10_000, 12_000],
      [14_000, 18_000],
      [12_000, 14_000],
      [18_000, 20_000],
    ])
    expect(places(done(whole, movePassage(whole, { from: 6000, to: 8000 }, 0)))).toEqual([
      [16_000, 18_000],
      [10_000, 16_000],
      [18_000, 20_000],
    ])
    expect(places(done(whole, movePassage(whole, { from: 0, to: 2000 }, 10_000)))).toEqual([
      [12_000, 20_000],
      [10_000, 12_000],
    ])
  })

  it('stays where it is asked to go to itself', () => {
    expect(movePassage(whole, { from: 2000, to: 4000 }, 3000)).toEqual([])
    expect(movePassage(whole, { from: 2000, to: 4000 }, 4000)).toEqual([])
  })

  it('loses and doubles nothing, leaves no cut without a join, and is taken back', () =>
    fc.assert(
      fc.property(piece, shareOf, shareOf, shareOf, (before, a, b, c) => {
        const length = clipLength(before)
        const [from, to] = [a, b].map((share) => Math.floor(share * length)).sort((x, y) => x - y)
        const place = Math.floor(c * length)
        const { document, inverse } = applyAndInvert(actualityType, before, movePassage(before, { from, to }, place))
        expect(clipLength(document)).toBe(length)
        for (const { join } of cuts(document.spans)) expect(join.fade).toBeGreaterThanOrEqual(0)
        const frames = (list: Actuality['spans']) =>
          list
            .map((span) => `${span.tape}/${span.sound}`)
            .sort()
            .filter((one, i, all) => one !== all[i - 1])
        expect(frames(document.spans)).toEqual(frames(before.spans))
        if (to > from && (place < from || place > to)) {
          const there = place > to ? place - (to - from) : place
          expect(toTape(document.spans, there)).toEqual(toTape(before.spans, from))
        }
        expect(applyAll(actualityType, document, inverse)).toEqual(before)
      }),
    ))

  it('is copied to another place', () => {
    const passage = slice(whole.spans, 1000, 2000)
    expect(places(done(whole, putIn(whole, passage, 5000)))).toEqual([
      [10_000, 15_000],
      [11_000, 12_000],
      [15_000, 20_000],
    ])
    expect(places(done(whole, putIn(whole, passage, 10_000)))).toEqual([
      [10_000, 20_000],
      [11_000, 12_000],
    ])
    expect(putIn(whole, [], 0)).toEqual([])
  })
})

it('a passage goes past one phrase, to the start and to the end, and no further', () => {
  const words = Array.from({ length: 9 }, (_, i) => ({ at: i * 100, end: i * 100 + 90, phraseEnd: i % 3 === 2 }))
  const second = { from: 300, to: 590 }
  expect(besidePhrase(words, second, -1, 1000)).toBe(0)
  expect(besidePhrase(words, second, 1, 1000)).toBe(1000)
  expect(besidePhrase(words, { from: 0, to: 290 }, 1, 1000)).toBe(600)
  expect(besidePhrase(words, { from: 0, to: 290 }, -1, 1000)).toBeNull()
  expect(besidePhrase(words, { from: 600, to: 890 }, 1, 1000)).toBeNull()
})

it('several pieces become one: words on words, the outer handles kept, nobody louder than before', () => {
  const other: Actuality = {
    ...whole,
    slug: 'Other',
    spans: [{ tape: 'pier', from: 0, to: 5000, sound: 'tape' }],
    head: 300,
    tail: 400,
    gain: -2,
    sides: { pier: [{ name: 'Kit', channels: [0] }] },
  }
  const { piece: one, meet } = appended([{ ...whole, head: 100, tail: 200, gain: 1 }, other])
  expect(places(one)).toEqual([
    [10_000, 19_800],
    [300, 5000],
  ])
  expect(meet).toEqual([9800])
  expect(one).toMatchObject({ slug: '', head: 100, tail: 400, gain: 1, sides: { pier: [{ name: 'Kit' }] } })
  expect(one.spans[1].gain).toBe(-3)
  expect(one.spans[1].join).toBeDefined()
  // of one tape, with a word muted in each: neither is muted in the other's passage
  const quiet = (from: number): Actuality => ({
    ...other,
    sides: { pier: [{ name: 'Kit', channels: [0], hush: [{ from, to: from + 50 }] }] },
  })
  const both = appended([quiet(400), quiet(900)]).piece
  expect(both.sides!.pier[0].hush).toEqual([{ from: 400, to: 450 }])
  expect(both.spans.filter(({ mutes }) => mutes).map(({ from, to, mutes }) => [from, to, mutes])).toEqual([
    [400, 450, [false]],
    [900, 950, [true]],
  ])
})

it('what is appended keeps its level in its room, its offcuts and its versions', () => {
  const other: Actuality = {
    ...whole,
    slug: 'Other',
    spans: [
      { tape: 'quay', from: 0, to: 500, sound: 'tape' },
      { tape: 'quay', from: 500, to: 900, sound: 'room', join: plainJoin() },
    ],
    gain: -6,
    kept: {
      o: { id: 'o', kind: 'offcut', at: 'then', spans: whole.spans },
      v: { id: 'v', kind: 'version', name: 'long', at: 'then', spans: whole.spans, head: 0, tail: 0 },
    },
  }
  const { piece: one } = appended([whole, other])
  expect(one.spans.slice(1).map(({ sound, gain }) => [sound, gain])).toEqual([
    ['tape', -6],
    ['room', -6],
  ])
  expect(one.kept).toMatchObject({ o: { at: 'then', spans: [{ gain: -6 }] }, v: { name: 'Other: long' } })
})
