import { describe, expect, it } from 'vitest'
import { random } from '../sound/random'
import { mixedAmong } from './mixed'

const SECOND = 50
const next = random(3)
/** Levels in dB by second as looks, which rise and fall as talk does; null: the recording does not reach there. */
const heard = (seconds: readonly (number | null)[]): Float32Array =>
  Float32Array.from({ length: seconds.length * SECOND }, (_, i) => {
    const level = seconds[Math.floor(i / SECOND)]
    return level === null ? 0 : 10 ** ((Math.max(-70, level - (i % 10 < 7 ? 0 : 14)) + next() * 4) / 10)
  })

const turns = Array.from({ length: 60 }, (_, i) => Math.floor(i / 5) % 2)
const HOST = turns.map((who) => (who ? -70 : -20))
const GUEST = turns.map((who) => (who ? -24 : -70))
const CALL = turns.map((who) => (who ? -26 : -22))

describe('a mixed recording of a call', () => {
  it('is the one that holds both, beside the host’s own, or everybody’s', () => {
    expect(mixedAmong([HOST, CALL].map(heard))).toEqual([false, true])
    expect(mixedAmong([HOST, GUEST, CALL].map(heard))).toEqual([false, false, true])
    expect(mixedAmong([CALL, GUEST].map(heard))).toEqual([true, false])
  })

  it('is none of two that have a speaker each, nor of two microphones in one room', () => {
    expect(mixedAmong([HOST, GUEST].map(heard))).toEqual([false, false])
    const near = turns.map((who) => (who ? -40 : -20))
    const far = turns.map((who) => (who ? -20 : -40))
    expect(mixedAmong([near, far].map(heard))).toEqual([false, false])
    const table = turns.map(() => -30)
    expect(mixedAmong([table, table].map(heard))).toEqual([false, false])
  })

  it('is judged by where both recordings reach', () => {
    const late = CALL.map((level, i) => (i < 20 ? null : level))
    expect(mixedAmong([HOST, late].map(heard))).toEqual([false, true])
    expect(mixedAmong([heard(HOST), heard([])])).toEqual([false, false])
  })
})
