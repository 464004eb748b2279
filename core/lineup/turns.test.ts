import { describe, expect, it } from 'vitest'
import { LOOK } from '../hearing/levels'
import type { Stretch } from '../time'
import { clarity, hushes, sameVoice } from './turns'

const ROOM = 1e-7
/** A side by what is heard on it in each second, in dB of full scale; null is the room alone. */
const side = (seconds: readonly (number | null)[], mixed = false) => ({
  mixed,
  looks: seconds.flatMap((level) =>
    Array.from({ length: 50 }, (_, i) => (level === null ? ROOM : ROOM + 10 ** (level / 10) * (0.6 + 0.4 * Math.cos(i)))),
  ),
})
const within = (hush: readonly Stretch[], second: number) =>
  hush.some(({ from, to }) => from <= (second + 0.45) * 48_000 && to >= (second + 0.55) * 48_000)

describe('turns in a conversation', () => {
  // three seconds of the one, three of the other, both at once, nobody
  const one = side([-20, -20, -20, -45, -45, -45, -20, -20, null, null, null])
  const other = side([-50, -50, -50, -26, -26, -26, -26, -26, null, null, null])

  it('closes the side that is not speaking, though the other bleeds into it', () => {
    const closed = hushes([one, other]).map((hush) => [0, 1, 2, 3, 4, 5, 6, 7, 9].map((at) => within(hush, at)))
    expect(closed).toEqual([
      [false, false, false, true, true, true, false, false, true],
      [true, true, true, false, false, false, false, false, true],
    ])
  })

  it('opens a tenth of a second before the first sound and closes after the last', () => {
    const [, second] = hushes([one, other])
    const opens = second.find(({ from }) => from === 0)!.to
    expect(opens).toBeLessThanOrEqual((3 - 0.1) * 48_000)
    expect(opens).toBeGreaterThan((3 - 0.3) * 48_000)
    expect(opens % LOOK).toBe(0)
  })

  it('hears a call with both voices only while nobody speaks who has an own recording', () => {
    const call = side([-20, -20, -20, -22, -22, -22, -20, -20, -22, -22, null], true)
    const [, mixed] = hushes([one, call])
    expect([1, 4, 6, 9].map((at) => within(mixed, at))).toEqual([true, false, true, false])
  })

  it('never has two own voices doubled by a call', () => {
    const call = side([-20, -20, -20, -22, -22, -22, -20, -20, null, null, null], true)
    const [, , mixed] = hushes([one, other, call])
    for (let second = 0; second < 8; second++) expect(within(mixed, second)).toBe(true)
  })

  it('knows one voice on two machines from two voices', () => {
    const poor = side([-31, -31, -31, null, null, null, -31, -31, null, null, null])
    expect(sameVoice(side([-20, -20, -20, null, null, null, -20, -20, null, null, null]).looks, poor.looks)).toBe(true)
    expect(sameVoice(one.looks, other.looks)).toBe(false)
    expect(sameVoice(one.looks, new Float32Array(one.looks.length))).toBe(false)
  })

  it('knows the clearer of two microphones', () => {
    expect(clarity(one.looks)).toBeGreaterThan(clarity(side([-40, -40, -40, null, null, null, -40, -40, null]).looks))
  })
})
