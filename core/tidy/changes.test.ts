import { describe, expect, it } from 'vitest'
import { RATE } from '../time'
import { leaving, leftOf, levelOf, longer, louder } from './changes'

const pause = {
  from: 10 * RATE,
  to: 11 * RATE,
  proposes: { do: 'takeOut', goes: { from: 10.3 * RATE, to: 10.8 * RATE }, room: 0 },
} as const
const filler = { from: RATE, to: 2 * RATE, proposes: { do: 'takeOut', goes: { from: 0.9 * RATE, to: 2 * RATE }, room: 0 } } as const

describe('what is done at a place instead of what was proposed', () => {
  it('leaves a pause the length that was asked for, more of it before what goes than behind', () => {
    expect(leftOf(pause)).toBe(RATE / 2)
    const left = { ...pause, proposes: leaving(pause, 0.2 * RATE) }
    expect(leftOf(left)).toBe(0.2 * RATE)
    if (!('goes' in left.proposes)) throw new Error('part of a pause goes')
    expect(left.proposes.goes.from - left.from).toBeGreaterThan(left.to - left.proposes.goes.to)
  })

  it('never leaves nothing, and never more than there is', () => {
    expect(leftOf({ ...pause, proposes: leaving(pause, 0) })).toBe(0.05 * RATE)
    expect(leftOf({ ...pause, proposes: leaving(pause, 5 * RATE) })).toBe(RATE - 1)
  })

  it('goes in steps, and a hold stays a hold', () => {
    const held = { ...pause, proposes: { do: 'hold', goes: pause.proposes.goes } } as const
    const next = longer(held, 1)!
    expect(next.do).toBe('hold')
    expect(leftOf({ ...held, proposes: next })).toBe(26_400)
  })

  it('shortens no filler, and turns it down by 9 dB first, then by steps', () => {
    expect([leftOf(filler), longer(filler, -1)]).toEqual([null, null])
    const down = louder(filler, -1)
    expect(levelOf({ proposes: down })).toBe(-9)
    expect(levelOf({ proposes: louder({ ...filler, proposes: down }, -1) })).toBe(-10.5)
  })
})
