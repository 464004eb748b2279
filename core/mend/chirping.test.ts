import { describe, expect, it } from 'vitest'
import { random } from '../sound/random'
import { Chirping } from './chirping'
import { LOOK } from './looks'

const next = random(21)
const hiss = () => Float32Array.from({ length: LOOK }, () => 0.01 * (2 * next() - 1))
const powerOf = (look: Float32Array) => look.reduce((sum, sample) => sum + sample * sample, 0)

function ratioOf(make: (look: Float32Array, k: number) => Float32Array, count = 200): number {
  const chirping = new Chirping()
  for (let k = 0; k < count; k++) {
    const look = hiss()
    chirping.add(powerOf(look), look, make(look, k))
  }
  return chirping.finish()
}

describe('what is left of a noise', () => {
  it('that is only softer does not chirp', () => {
    expect(ratioOf((look) => look.map((sample) => sample / 4))).toBeCloseTo(1, 2)
  })

  it('as tones that come and go chirps', () => {
    const tones = (look: Float32Array, k: number) =>
      look.map((sample, i) => 0.05 * sample + (k % 9 === 0 ? 0.003 * Math.sin((k + 1) * 0.03 * i) : 0))
    expect(ratioOf(tones)).toBeGreaterThan(2)
  })

  it('is not judged where there is too little of it, and neither a voice nor a level that moves counts', () => {
    expect(ratioOf((look) => look, 20)).toBe(1)
    const chirping = new Chirping()
    for (let k = 0; k < 900; k++) {
      const look = hiss()
      // what is loud is cut to pieces, what is quiet only softer, and softer by and by
      const loud = k % 120 < 60
      const before = loud ? look.map((sample) => 30 * sample) : look
      chirping.add(
        powerOf(before),
        before,
        loud ? before.map((sample) => (k % 2 ? 0 : sample)) : look.map((sample) => sample / (4 + (k % 7))),
      )
    }
    expect(chirping.finish()).toBeCloseTo(1, 1)
  })
})
