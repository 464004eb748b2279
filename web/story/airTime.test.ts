import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { format } from 'date-fns'
import { airClock, airDay, airTime, typedAirTime, untilAir } from './airTime'

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

  const here = format(new Date(2026, 10, 25, 18, 20), 'xxx')
  it('carry the zone in which they were set, and say it where that is another', () => {
    expect(airTime(`2026-11-25T17:52${here}`)).toBe('17:52')
    expect(airTime('2026-11-25T17:52+13:00')).toMatch(/\d\d:\d\d GMT/)
  })

  it.each(['18:20', '1820', '18.20', '6:20 pm'])('are typed as %s', (time) => {
    const typed = typedAirTime({ day: '2026-11-25', time })
    expect(typed).toEqual({ airs: `2026-11-25T18:20${here}` })
    expect([airDay(`2026-11-25T18:20${here}`), airClock(`2026-11-25T18:20${here}`)]).toEqual(['2026-11-25', '18:20'])
  })

  it.each([
    ['', '18:20', 'The day is missing.'],
    ['2026-11-25', '', 'The time is missing.'],
    ['2026-11-25', 'teatime', '“teatime” is not a time of day. Type it as 18:20 or 1820.'],
    ['', '', ''],
  ])('typed as %j and %j say %j', (day, time, said) => expect(typedAirTime({ day, time })).toEqual(said ? { wrong: said } : { airs: '' }))
})
