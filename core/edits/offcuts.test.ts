import { expect, it } from 'vitest'
import { applyAll, applyAndInvert, exchange } from '../steps/document'
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
    setAside(moved, { from: 2000, to: 5000 }, { id: 'boat', at: '2026-11-25T17:40:00Z' }),
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
  expect(offcutsOf(applyAll(actualityType, without, dropOffcut(offcut)))).toEqual([])
})

it('two who set something aside at once both keep what they set aside', () => {
  const one = setAside(whole, { from: 1000, to: 2000 }, { id: 'a', at: '2026-11-25T17:40:00Z' })
  const other = setAside(whole, { from: 5000, to: 7000 }, { id: 'b', at: '2026-11-25T17:40:00Z' })
  const both = applyAll(actualityType, applyAll(actualityType, whole, one), exchange(actualityType, other, one)!.mine)
  expect(offcutsOf(both).map(({ spans }) => spans.map(({ from, to }) => [from, to]))).toEqual([[[1000, 2000]], [[5000, 7000]]])
})
