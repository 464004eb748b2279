import { expect, it } from 'vitest'
import { applyAll } from '../steps/document'
import type { Word } from '../tape/words'
import { actualityType, clipLength, type Actuality, type ActualityStep } from './actuality'
import { holdTime, setEdges, takeOut } from './acts'
import { nicks } from './gone'
import { edits, plainJoin } from './editList'
import { fairRecord } from './fairRecord'
import { fillHeld, layPatch, patches, takeOffPatch } from './patch'
import { pieceWords } from './pieceWords'

const joins = { left: plainJoin(), right: plainJoin() }
const long: Actuality = {
  kind: 'actuality',
  slug: '',
  speaker: '',
  role: '',
  story: null,
  spans: [{ tape: 'a', from: 100_000, to: 200_000, sound: 'tape' }],
  head: 0,
  tail: 0,
}
const whole: Actuality = {
  kind: 'actuality',
  slug: '',
  speaker: '',
  role: '',
  story: null,
  spans: [{ tape: 'a', from: 10_000, to: 20_000, sound: 'tape' }],
  head: 500,
  tail: 500,
}
const done = (piece: Actuality, steps: ActualityStep[]) => applyAll(actualityType, piece, steps)
const WORDS = 'we never saw the ferry come back that night'
  .split(' ')
  .map((text, i): Word => ({ text, from: 10_500 + i * 1000, to: 11_400 + i * 1000 }))
const said = (piece: Actuality) => pieceWords(piece.spans, () => WORDS)

// the middle of "ferry", with somewhat longer sound from before the piece
const patched = done(whole, layPatch(whole, { from: 4700, to: 5200 }, { tape: 'a', from: 2000, to: 2600, level: -3 }, joins))

it('lays sound over a spot, remembers what it stands for, and changes no other word', () => {
  expect(patched.spans).toHaveLength(3)
  expect(patched.spans[1]).toMatchObject({
    tape: 'a',
    from: 2000,
    to: 2600,
    level: [{ at: 2000, dB: -3 }],
    patch: { tape: 'a', from: 14_700, to: 15_200, laid: { from: 2000, to: 2600 } },
  })
  expect([clipLength(patched), patched.head, patched.tail]).toEqual([10_100, 500, 500])
  expect(said(patched).map(({ text }) => text)).toEqual(WORDS.map(({ text }) => text))
  // the word goes on to the end of what is longer now
  const ferry = said(patched)[4]
  expect([ferry.at, ferry.end]).toEqual([4500, 5500])
  // nothing was taken out
  expect(nicks(patched)).toEqual([])
})

it('is taken off again without a trace, also in part of it', () => {
  expect(done(patched, takeOffPatch(patched, patches(patched)[0]))).toEqual(whole)
  const cut = done(patched, takeOut(patched, { from: 5000, to: 5300 }))
  const [left] = patches(cut)
  expect(left.span.to - left.span.from).toBe(300)
  const off = done(cut, takeOffPatch(cut, left))
  // what the patch stood for, as far as it was not taken out
  expect(off.spans.map(({ from, to }) => [from, to])).toEqual([
    [10_000, 14_950],
    [15_200, 20_000],
  ])
})

it('says its own words where something else is laid over', () => {
  const other = done(whole, layPatch(whole, { from: 4500, to: 5400 }, { tape: 'a', from: 18_500, to: 19_400, own: true }, joins))
  expect(
    said(other)
      .map(({ text }) => text)
      .join(' '),
  ).toBe('we never saw the night come back that night')
})

it('finds the patches that a stretch touches', () => {
  expect(patches(patched)).toHaveLength(1)
  expect(patches(patched, { from: 0, to: 4700 })).toEqual([])
  expect(patches(patched, { from: 5200, to: 5250 })).toHaveLength(1)
})

it('stands on the fair-edit record, with where its sound is from', () => {
  const { parts } = fairRecord(patched, { wordsOf: () => WORDS, offOf: () => [] })
  expect(parts.map((part) => [part.kind, 'text' in part ? part.text : ''])).toEqual([
    ['said', 'we never saw the'],
    ['patched', 'ferry'],
    ['said', 'come back that night'],
  ])
  expect(parts[1]).toMatchObject({ place: { from: 14_700, to: 15_200 }, laid: { from: 2000, to: 2600 } })
})

it('held time is filled with another sound, again and again, and is room tone again without it', () => {
  const held = done(long, holdTime(long, { from: 20_000, to: 60_000 }))
  const [nick] = nicks(held)
  const stretch = { from: nick.at, to: nick.at + nick.held }
  expect(fillHeld(held, stretch, { tape: 'b', from: 0, to: 5000 })).toEqual([])
  const filled = done(held, fillHeld(held, stretch, { tape: 'b', from: 1000, to: 17_000 }))
  expect(clipLength(filled)).toBe(100_000)
  expect(patches(filled).map(({ from, to, span }) => [from, to, span.from])).toEqual([
    [20_000, 36_000, 1000],
    [36_000, 52_000, 1000],
    [52_000, 60_000, 1000],
  ])
  expect(
    fairRecord(filled, { wordsOf: () => [], offOf: () => [] }).parts.filter((part) => part.kind === 'patched' && part.filled),
  ).toHaveLength(3)
  const back = patches(filled).reduceRight(
    (piece, { from }) =>
      done(
        piece,
        takeOffPatch(
          piece,
          patches(piece).find((one) => one.from === from)!,
        ),
      ),
    filled,
  )
  expect(back.spans.map(({ from, to, sound }) => [from, to, sound])).toEqual(held.spans.map(({ from, to, sound }) => [from, to, sound]))
})

it('taken off, it leaves what was there, wherever its joins were placed', () => {
  const place = (piece: Actuality, at: number, left: number, right: number) => {
    const cut = edits(piece.spans).find((one) => one.at === at)!
    return done(
      piece,
      setEdges(
        piece,
        cut,
        { left: cut.left.to + left, right: cut.right.from + right },
        { ...plainJoin(), asked: { left: cut.left.to, right: cut.right.from, why: '' } },
      ),
    )
  }
  const laid = done(long, layPatch(long, { from: 40_000, to: 45_000 }, { tape: 'a', from: 10_000, to: 16_000, own: true }, joins))
  for (const [left, right] of [
    [-1500, 900],
    [2000, -1200],
  ]) {
    const moved = place(place(laid, 46_000, right, left), 40_000, left, right)
    expect(done(moved, takeOffPatch(moved, patches(moved)[0])).spans).toEqual(long.spans)
  }
})
