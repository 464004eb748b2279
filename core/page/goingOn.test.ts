import { expect, it } from 'vitest'
import { cuts, listLength } from '../edits/editList'
import { RATE } from '../time'
import { goingOn } from './goingOn'

const s = RATE
const stretch = { from: 10 * s, to: 30 * s }

it('is the stretch alone where that is long enough, or too short to be repeated unheard', () => {
  expect(goingOn('quay', stretch, 15 * s)).toHaveLength(1)
  expect(goingOn('quay', { from: 0, to: s }, 60 * s)).toHaveLength(1)
})

it('is as long as is wanted, of that stretch alone, its crossfades too', () => {
  const list = goingOn('quay', stretch, 200 * s)
  expect(listLength(list)).toBeGreaterThanOrEqual(200 * s)
  for (const { left, right, join } of cuts(list)) {
    expect(left.to + join.fade / 2).toBeLessThanOrEqual(stretch.to)
    expect(right.from - join.fade / 2).toBeGreaterThanOrEqual(stretch.from)
    expect([join.fade, join.shape]).toEqual([3 * s, 'power'])
  }
})

it('does not come round as a loop does: no part begins where another one did', () => {
  const starts = goingOn('quay', stretch, 120 * s).map(({ from }) => from)
  expect(new Set(starts).size).toBe(starts.length)
})
