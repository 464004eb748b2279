import { describe, expect, it } from 'vitest'
import { RATE } from '../time'
import { BEFORE_END, BEHIND_END, resonancesOf } from './resonances'
import { hissOf, voiceLike } from './voiceLike'

/** Each burst of the test voice ends every 1.2 s, from 0.6 s on. */
const ENDS = Array.from({ length: 12 }, (_, k) => Math.round((0.58 + 1.2 * k) * RATE))
const endingsOf = (sound: Float64Array) => ENDS.map((end) => sound.slice(end - BEFORE_END, end + BEHIND_END))

/** A room that rings at one tone: it dies away by 60 dB within `seconds`. */
function ringing(sound: Float64Array, hertz: number, seconds: number, share: number): Float64Array {
  const radius = 10 ** (-3 / (seconds * RATE))
  const [a, b] = [2 * radius * Math.cos((2 * Math.PI * hertz) / RATE), -radius * radius]
  let [one, two] = [0, 0]
  return sound.map((sample) => {
    const now = (1 - radius) * sample + a * one + b * two
    two = one
    one = now
    return sample + share * now
  })
}

describe('the tones at which a room rings', () => {
  const voice = voiceLike(15, 21)

  it.each([118, 163, 240])('are found: %s Hz', (hertz) => {
    const [strongest] = resonancesOf(endingsOf(ringing(voice, hertz, 0.9, 1.5)))
    expect(Math.abs(strongest.hertz - hertz)).toBeLessThan(7)
    expect(strongest.dB).toBeLessThan(-3)
  })

  it('are none where a voice stops in a dry room, with hiss or without', () => {
    const hiss = hissOf(voice.length, 0.004)
    expect(resonancesOf(endingsOf(voice))).toEqual([])
    expect(resonancesOf(endingsOf(voice.map((sample, i) => sample + hiss[i])))).toEqual([])
  })

  it('cannot be told from a few endings', () => {
    expect(() => resonancesOf(endingsOf(voice).slice(0, 5))).toThrow(RangeError)
  })
})
