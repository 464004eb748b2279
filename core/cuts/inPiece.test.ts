import { expect, it } from 'vitest'
import { cuts, type Span } from '../edits/editList'
import { cutOf, joinOf, placedStretch } from './inPiece'

const join = { fade: 384, shape: 'power' as const, origin: 'hand' as const, heard: false }
const list: Span[] = [
  { tape: 'a', from: 1000, to: 5000, sound: 'tape' },
  { tape: 'a', from: 7000, to: 9000, sound: 'tape', join },
  { tape: 'b', from: 100, to: 3100, sound: 'tape', join },
  { tape: 'b', from: 3100, to: 4100, sound: 'tone', join },
]

it('finds the edges on tape of what is to go, and how far they may be moved', () => {
  expect(cutOf(list, { from: 1000, to: 2000 })).toEqual({
    left: { tape: 'a', asked: 2000, low: 1001, high: 3000 },
    right: { tape: 'a', asked: 3000, low: 2000, high: 4999 },
  })
  // across joins, and to another tape: each within its own span
  expect(cutOf(list, { from: 3000, to: 6500 })).toEqual({
    left: { tape: 'a', asked: 4000, low: 1001, high: 5000 },
    right: { tape: 'b', asked: 600, low: 100, high: 3099 },
  })
  // from a join on, what lies before it is the side that stays
  expect(cutOf(list, { from: 4000, to: 5000 })!.left).toEqual({ tape: 'a', asked: 5000, low: 1001, high: 5000 })
})

it('has nothing to place at the ends, and beside room tone', () => {
  expect(cutOf(list, { from: 0, to: 500 })).toBeNull()
  expect(cutOf(list, { from: 9500, to: 10_000 })).toBeNull()
  expect(cutOf(list, { from: 8000, to: 9500 })).toBeNull()
})

it('sees in a join what lies between its sides', () => {
  const [first, second] = cuts(list)
  expect(joinOf(first)).toEqual({
    left: { tape: 'a', asked: 5000, low: 1001, high: 7000 },
    right: { tape: 'a', asked: 7000, low: 5000, high: 8999 },
  })
  expect(joinOf(second)!.left.high).toBe(9000 + 48_000)
  expect(joinOf(second)!.right.low).toBe(0)
  const order = cutOf(list, { from: 1000, to: 2000 })!
  expect(placedStretch({ from: 1000, to: 2000 }, order, { left: 1990, right: 3050 })).toEqual({ from: 990, to: 2050 })
})
