import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { airTime, untilAir } from './airTime'

beforeEach(() => void vi.useFakeTimers({ now: new Date(2026, 10, 25, 16, 48) }))
afterEach(() => void vi.useRealTimers())

describe('air times', () => {
  it.each([
    ['2026-11-25T17:52', '17:52'],
    ['2026-11-26T07:30', 'tomorrow 07:30'],
    ['2026-12-04T17:52', 'Fri 4 Dec 17:52'],
    ['', ''],
    ['soon', ''],
  ])('%s reads %s', (airs, text) => expect(airTime(airs)).toBe(text))

  it.each([
    ['2026-11-25T17:52', 'in 1 h 04'],
    ['2026-11-25T17:00', 'in 12 min'],
    ['2026-11-25T16:44', '4 min ago'],
    ['2026-11-27T17:52', ''],
    ['', ''],
  ])('%s is %s', (airs, text) => expect(untilAir(airs, new Date())).toBe(text))
})
