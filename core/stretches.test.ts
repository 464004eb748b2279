import { expect, it } from 'vitest'
import { overlaps, overlapsAny, touches, united, without } from './stretches'

const of = (from: number, to: number) => ({ from, to })

it('overlap where they have a frame in common, and touch where one begins as the other ends', () => {
  expect([overlaps(of(0, 5), of(4, 9)), overlaps(of(0, 5), of(5, 9)), touches(of(0, 5), of(5, 9)), touches(of(0, 5), of(6, 9))]).toEqual([
    true,
    false,
    true,
    false,
  ])
  expect([overlapsAny([of(0, 2), of(8, 9)], of(1, 3)), overlapsAny([of(0, 2), of(8, 9)], of(2, 8))]).toEqual([true, false])
})

it('become one where they touch, in whatever order they come', () =>
  expect(united([of(9, 12), of(0, 5), of(4, 7), of(12, 13)])).toEqual([of(0, 7), of(9, 13)]))

it('are taken from one another', () => expect(without(of(0, 100), [of(20, 30), of(25, 40), of(90, 200)])).toEqual([of(0, 20), of(40, 90)]))
