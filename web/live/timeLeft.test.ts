import { expect, test } from 'vitest'
import { RATE } from '../../core/time'
import { lastSeconds, leftOf, short } from './timeLeft'

test('time left is read as the trade writes lengths', () => {
  expect([0, 0.2, 1, 12.4, 59.5, 60, 61, 600].map((seconds) => short(seconds * RATE))).toEqual([
    ':00',
    ':01',
    ':01',
    ':13',
    '1:00',
    '1:00',
    '1:01',
    '10:00',
  ])
  expect(leftOf({ at: 3 * RATE }, 2 * RATE)).toBe(0)
})

test('only the last five seconds are counted', () => {
  expect([6, 5.2, 5, 4.01, 0.5, 0].map((seconds) => lastSeconds(seconds * RATE))).toEqual([null, null, 5, 5, 1, 0])
})
