import { expect, it } from 'vitest'
import { random } from '../sound/random'
import { RATE } from '../time'
import { HumLeft } from './humLeft'

const SECONDS = 25
const next = random(5)
const room = Float32Array.from({ length: SECONDS * RATE }, () => 0.0002 * (2 * next() - 1))
/** A voice for most of the time: far louder than the hum, at its very tones too. */
const voice = room.map((_, i) => (i % (4 * RATE) < 3 * RATE ? 0.1 * Math.sin((2 * Math.PI * 100 * i) / RATE) : 0))
const hum = (height: number) =>
  room.map((_, i) => height * (Math.sin((2 * Math.PI * 50 * i) / RATE) + 0.5 * Math.sin((2 * Math.PI * 150 * i) / RATE + 1)))
const sum = (...parts: Float32Array[]) => room.map((_, i) => parts.reduce((total, part) => total + part[i], 0))

function left(before: Float32Array, after: Float32Array, part: number): number | null {
  const told = new HumLeft({ mains: 50, harmonics: 8 })
  for (let at = 0; at < before.length; at += part) told.add(before.subarray(at, at + part), after.subarray(at, at + part))
  return told.finish()
}
const dB = (ratio: number | null) => 10 * Math.log10(ratio!)

it('what is left of a hum is told in its pauses, whatever the voice does, and however it is handed over', () => {
  const before = sum(room, voice, hum(0.01))
  expect(dB(left(before, sum(room, voice, hum(0.001)), 4 * RATE))).toBeCloseTo(-20, 0)
  expect(dB(left(before, sum(room, voice, hum(0.001)), 7777))).toBeCloseTo(-20, 0)
  expect(dB(left(before, before, RATE))).toBeCloseTo(0, 5)
  expect(dB(left(before, sum(room, voice), RATE))).toBeLessThan(-35)
})

it('of digital silence nothing is told', () => {
  expect(
    left(
      room.map(() => 0),
      room.map(() => 0),
      RATE,
    ),
  ).toBeNull()
})
