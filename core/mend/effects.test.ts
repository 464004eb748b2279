import { describe, expect, it } from 'vitest'
import { random } from '../sound/random'
import { RATE } from '../time'
import { withRoom } from './addedRoom'
import { mended, type MendStep } from './chain'
import { effectsIn } from './effects'
import { coloured } from './telephone'
import { dBFS } from './voiceLike'

const next = random(11)
const hiss = Float64Array.from({ length: 2 * RATE }, () => 0.2 * (2 * next() - 1))
const tone = (hertz: number) => Float64Array.from({ length: RATE }, (_, i) => 0.25 * Math.sin((2 * Math.PI * hertz * i) / RATE))
const through = (hertz: number) => {
  const out = tone(hertz)
  coloured({ kind: 'telephone', low: 300, high: 3400 }, out)
  return dBFS(out, RATE / 2) - dBFS(tone(hertz), RATE / 2)
}

describe('effects', () => {
  it('a telephone passes its band as it is, and next to nothing outside it', () => {
    expect(Math.abs(through(1000))).toBeLessThan(1)
    for (const hertz of [80, 8000]) expect(through(hertz)).toBeLessThan(-40)
  })

  it('an added room rings on, 60 dB down when it is said to be, as loud as it is said, and the sound itself is in it untouched', () => {
    const click = new Float64Array(2 * RATE)
    click[1000] = 1
    withRoom({ kind: 'addedRoom', seconds: 0.5, dB: 0 }, click)
    expect(click[1000]).toBeCloseTo(1, 6)
    const from = (seconds: number) => 1000 + Math.round((0.01 + seconds) * RATE)
    // Schroeder's backward sum: what is still to come, from a place on
    const left = (seconds: number) => 10 * Math.log10(click.subarray(from(seconds)).reduce((sum, sample) => sum + sample * sample, 0))
    expect(left(0)).toBeCloseTo(0, 1)
    expect(left(0.25) - left(0)).toBeGreaterThan(-33)
    expect(left(0.25) - left(0)).toBeLessThan(-27)
    expect(click.subarray(from(0.51)).every((sample) => Math.abs(sample) < 1e-9)).toBe(true)
    const softer = hiss.slice()
    withRoom({ kind: 'addedRoom', seconds: 0.5, dB: -20 }, softer)
    const room = softer.map((sample, i) => sample - hiss[i])
    expect(dBFS(room, RATE) - dBFS(hiss, RATE)).toBeCloseTo(-20, 0)
  })

  it('come to the same samples from wherever they are begun', () => {
    const steps: MendStep[] = [
      { kind: 'telephone', low: 300, high: 3400 },
      { kind: 'addedRoom', seconds: 0.6, dB: -10 },
    ]
    const long = Float32Array.from({ length: 9 * RATE }, () => 0.2 * (2 * next() - 1))
    const read = (from: number, to: number) => long.subarray(from, to)
    const whole = mended(read, steps, 0, long.length, long.length)
    const part = mended(read, steps, 5 * RATE + 123, 6 * RATE, long.length)
    expect(part.every((sample, i) => sample === whole[5 * RATE + 123 + i])).toBe(true)
  })

  it('are told of a treatment, unless they are switched off', () => {
    const steps: MendStep[] = [
      { kind: 'gain', dB: 3 },
      { kind: 'addedRoom', seconds: 0.5, dB: -12 },
      { kind: 'telephone', low: 300, high: 3400, off: true },
    ]
    expect(effectsIn({ kind: 'chain', steps })).toEqual(['addedRoom'])
    expect(effectsIn({ kind: 'polarity' })).toEqual([])
  })
})
