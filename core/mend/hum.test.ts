import { describe, expect, it } from 'vitest'
import { decibels } from '../sound/level'
import { random as seeded } from '../sound/random'
import { RATE } from '../time'
import { withoutHum } from './hum'

const LENGTH = 5 * RATE
/** Bursts of a harmonic voice that glides, with pauses, over a quiet room: what hum must leave alone. */
function speech(seed: number): Float64Array {
  const random = seeded(seed)
  let phase = 0
  return Float64Array.from({ length: LENGTH }, (_, i) => {
    const t = i / RATE
    const speaks = t % 1.2 < 0.7
    phase += (2 * Math.PI * (118 + 14 * Math.sin(2.1 * t) + 9 * Math.sin(7.3 * t))) / RATE
    const voice = [1, 2, 3, 4, 5].reduce((sum, k) => sum + Math.sin(k * phase) / k, 0)
    return (speaks ? 0.08 * voice : 0) + 0.0004 * (random() - 0.5)
  })
}
const hum = (hertz: number) =>
  Float64Array.from({ length: LENGTH }, (_, i) =>
    [0.02, 0.012, 0.015, 0.004, 0.006].reduce(
      (sum, height, k) => sum + height * Math.sin((2 * Math.PI * (k + 1) * hertz * i) / RATE + k),
      0,
    ),
  )
const power = (samples: Float64Array, from = RATE / 2, to = LENGTH - RATE / 2) => {
  let sum = 0
  for (let i = from; i < to; i++) sum += samples[i] * samples[i]
  return decibels(Math.sqrt(sum / (to - from)))
}
const minus = (a: Float64Array, b: Float64Array) => a.map((sample, i) => sample - b[i])

describe('mains hum', () => {
  it.each([
    [50, 50],
    [50, 50.08],
    [60, 59.93],
  ] as const)('of %s Hz that is really %s goes by 30 dB and more, and the voice over it stays', (mains, hertz) => {
    const voice = speech(3)
    const noise = hum(hertz)
    const out = voice.map((sample, i) => sample + noise[i])
    withoutHum({ kind: 'hum', mains, harmonics: 8 }, out)
    // what is left of it is part of what differs from the voice
    expect(power(noise) - power(minus(out, voice))).toBeGreaterThan(30)
    expect(power(minus(out, voice)) - power(voice)).toBeLessThan(-40)
  })

  it('is told also where some of the sound is digital silence', () => {
    const voice = speech(5)
    const noise = hum(50.03)
    const out = voice.map((sample, i) => (i < 1.3 * RATE ? 0 : sample + noise[i]))
    withoutHum({ kind: 'hum', mains: 50, harmonics: 8 }, out)
    const [from, to] = [Math.round(2.2 * RATE), LENGTH - RATE / 2]
    expect(power(noise, from, to) - power(minus(out, voice), from, to)).toBeGreaterThan(30)
  })

  it('is not made where there is none', () => {
    const voice = speech(4)
    const out = voice.slice()
    withoutHum({ kind: 'hum', mains: 50, harmonics: 8 }, out)
    expect(power(minus(out, voice)) - power(voice)).toBeLessThan(-60)
  })
})
