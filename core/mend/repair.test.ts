import { expect, it } from 'vitest'
import { noise } from '../sound/noise'
import { milliseconds, RATE } from '../time'
import { repaired, repairsWithin, type Repair } from './repair'

/** Three harmonics of a voice, and a little room. */
const voice = (length: number): Float32Array => {
  const room = noise(length, 0.001)
  return room.map((x, i) => x + 0.2 * Math.sin(i / 60) + 0.1 * Math.sin(i / 30 + 1) + 0.05 * Math.sin(i / 15 + 2))
}
const reads = (sound: Float32Array) => (from: number, to: number) =>
  Float32Array.from({ length: to - from }, (_, i) => sound[from + i] ?? 0)
const error = (a: Float32Array, b: Float32Array, from: number, to: number) =>
  10 * Math.log10(a.subarray(from, to).reduce((sum, x, i) => sum + (x - b[from + i]) ** 2, 1e-12) / (to - from))

it('a click is bridged by the wave around it', () => {
  const clean = voice(RATE)
  const spoilt = clean.slice()
  for (let i = 0; i < 96; i++) spoilt[20_000 + i] += 0.5 * (-1) ** i
  const [from, to] = [19_990, 20_110]
  const made = repaired(reads(spoilt), [{ from, to, how: 'bridge' }], 0, RATE)
  expect(error(made, clean, from, to)).toBeLessThan(error(spoilt, clean, from, to) - 35)
  expect(made.subarray(0, from)).toEqual(spoilt.subarray(0, from))
  expect(made.subarray(to)).toEqual(spoilt.subarray(to))
})

it('a long hole sounds as loud as what lies around it', () => {
  const clean = voice(RATE)
  const spoilt = clean.slice()
  const [from, to] = [20_000, 20_000 + milliseconds(50)]
  spoilt.fill(0, from, to)
  const made = repaired(reads(spoilt), [{ from, to, how: 'bridge' }], 0, RATE)
  const power = (sound: Float32Array) => 10 * Math.log10(sound.subarray(from, to).reduce((sum, x) => sum + x * x, 0) / (to - from))
  expect(Math.abs(power(made) - power(clean))).toBeLessThan(1.5)
  for (const edge of [from, to]) expect(Math.abs(made[edge] - made[edge - 1])).toBeLessThan(0.02)
})

it('of a thump the low end goes, and the voice stays', () => {
  const clean = voice(RATE)
  const [from, to] = [20_000, 20_000 + milliseconds(120)]
  const spoilt = clean.map((x, i) =>
    i < from || i >= to ? x : x + 0.4 * Math.sin((i - from) / 140) * Math.sin((Math.PI * (i - from)) / (to - from)),
  )
  const made = repaired(reads(spoilt), [{ from, to, how: 'lowEnd' }], 0, RATE)
  expect(error(made, clean, from, to)).toBeLessThan(error(spoilt, clean, from, to) - 12)
})

it('comes to the same bits whatever is asked for, also where repairs lie upon each other', () => {
  const sound = voice(RATE)
  const repairs: Repair[] = [
    { from: 10_000, to: 10_100, how: 'bridge' },
    { from: 9_000, to: 14_000, how: 'lowEnd' },
    { from: 10_900, to: 10_960, how: 'bridge' },
    { from: 12_000, to: 14_000, how: 'bridge' },
  ]
  const whole = repaired(reads(sound), repairs, 0, RATE)
  for (const [from, to] of [
    [10_050, 10_090],
    [9_500, 12_500],
    [13_999, 20_000],
    [0, 9_001],
  ])
    expect(repaired(reads(sound), repairsWithin(repairs, from, to) ?? [], from, to)).toEqual(whole.slice(from, to))
})
