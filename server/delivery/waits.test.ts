import { expect, test } from 'vitest'
import { nextTry } from './waits'

const MINUTE = 60_000

test('waits grow, and are never longer than a minute', () => {
  const waits = [1, 2, 3, 4, 5, 6, 7, 500].map((tries) => nextTry(0, tries, 0, null)! / 1000)
  expect(waits).toEqual([2, 4, 8, 16, 32, 60, 60, 60])
})

test('it is tried once more at the air time, and then no more', () => {
  expect(nextTry(10 * MINUTE - 5000, 9, 0, 10 * MINUTE)).toBe(10 * MINUTE)
  expect(nextTry(10 * MINUTE, 10, 0, 10 * MINUTE)).toBeNull()
})

test('without an air time it is tried for an hour', () => {
  expect(nextTry(59 * MINUTE, 60, 0, null)).toBe(60 * MINUTE)
  expect(nextTry(60 * MINUTE, 61, 0, null)).toBeNull()
})
