import { expect, it } from 'vitest'
import { applyAll, applyAndInvert } from '../steps/document'
import { actualityType, clipLength, type Actuality } from './actuality'
import { movePassage } from './order'
import { dropOffcut, offcutsOf, setAside, takeBack } from './offcuts'

const whole: Actuality = {
  kind: 'actuality',
  slug: '',
  speaker: '',
  role: '',
  story: null,
  spans: [{ tape: 'a', from: 0, to: 10_000, sound: 'tape' }],
  head: 0,
  tail: 0,
}

it('what is set aside is out of the piece, as it was edited, and comes back where one wants it', () => {
  const moved = applyAll(actualityType, whole, movePassage(whole, { from: 1000, to: 2000 }, 4000))
  const { document: without, inverse } = applyAndInvert(
    actualityType,
    moved,
    setAside(moved, { from: 2000, to: 5000 }, '2026-11-25T17:40:00Z'),
  )
  expect(clipLength(without)).toBe(7000)
  const [offcut] = offcutsOf(without)
  expect(offcut.spans.map(({ from, to }) => [from, to])).toEqual([
    [3000, 4000],
    [1000, 2000],
    [4000, 5000],
  ])
  const back = applyAll(actualityType, without, takeBack(without, offcut, 7000))
  expect(back.spans.map(({ from, to }) => [from, to])).toEqual([
    [0, 1000],
    [2000, 3000],
    [5000, 10_000],
    [3000, 4000],
    [1000, 2000],
    [4000, 5000],
  ])
  expect(offcutsOf(back)).toEqual([])
  expect(applyAll(actualityType, without, inverse)).toEqual(moved)
  expect(offcutsOf(applyAll(actualityType, without, dropOffcut(without, offcut)))).toEqual([])
})
