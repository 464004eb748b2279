import { describe, expect, it } from 'vitest'
import { clock, inSeconds, minuteSecond, parseTime, RATE, toFrames, tradeLength } from './time'

describe('time', () => {
  it('shows places as m:ss.t', () => {
    expect(clock(0)).toBe('0:00.0')
    expect(clock(toFrames(13.24))).toBe('0:13.2')
    expect(clock(toFrames(59.96))).toBe('1:00.0')
    expect(clock(toFrames(-8.4))).toBe('−0:08.4')
    expect(clock(-1)).toBe('0:00.0')
  })
  it('shows lengths as the trade does', () => {
    expect(tradeLength(toFrames(9.4))).toBe(':09')
    expect(tradeLength(toFrames(65))).toBe('1:05')
    expect(tradeLength(toFrames(59.6))).toBe('1:00')
  })
  it.each([
    [0.43, '0.4'],
    [12.04, '12.0'],
    [0.026, '0.03'],
    [0.004, '0.01'],
    [0, '0.0'],
  ])('shows %f s as %s', (seconds, text) => expect(inSeconds(toFrames(seconds))).toBe(text))

  it('rounds margin times down', () => expect(minuteSecond(toFrames(59.99))).toBe('0:59'))
  it.each([
    ['1:02.5', 62.5],
    [':09', 9],
    ['62,5', 62.5],
    ['1:02:03', 3723],
    [' 0:00.0 ', 0],
  ])('reads %s', (text, seconds) => expect(parseTime(text)).toBe(seconds * RATE))
  it.each(['', 'soon', '1:2:3:4', '-3'])('refuses %j', (text) => expect(parseTime(text)).toBeNull())
})
