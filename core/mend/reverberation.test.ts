import { expect, it } from 'vitest'
import { RATE } from '../time'
import { solveHermitian } from './hermitian'
import { drier } from './reverberation'
import { dBFS, hissOf, voiceLike } from './voiceLike'

it('what a room still rings in a pause is softer, and what is said is as loud', () => {
  const voice = voiceLike(5)
  // a room of half a second: a hundred echoes from 60 ms on, ever softer
  const heights = hissOf(100, 0.14, 5)
  const sound = voice.slice()
  heights.forEach((height, k) => {
    const late = Math.round((0.06 + 0.0041 * k) * RATE)
    for (let i = late; i < sound.length; i++) sound[i] += height * 10 ** ((-3 * late) / (0.5 * RATE)) * 4 * voice[i - late]
  })
  const out = sound.slice()
  drier({ kind: 'reverberation', seconds: 0.5 }, out)
  const ringing = (samples: Float64Array) => dBFS(samples, 2.4 * RATE + 0.66 * RATE, 2.4 * RATE + 0.8 * RATE)
  const said = (samples: Float64Array) => dBFS(samples, 2.5 * RATE, 2.8 * RATE)
  expect(ringing(sound) - ringing(out)).toBeGreaterThan(2)
  expect(Math.abs(said(voice) - said(out))).toBeLessThan(2)
})

it('a Hermitian system is solved', () => {
  // (2, i; -i, 3) (1, 1 + i) = (1 + i, 3 + 2i)
  const a = { re: Float64Array.of(2, 0, 0, 3), im: Float64Array.of(0, 0, -1, 0) }
  const b = { re: Float64Array.of(1, 3), im: Float64Array.of(1, 2) }
  solveHermitian(a, b, 2)
  expect([...b.re, ...b.im].map((value) => Math.round(value * 1e9) / 1e9)).toEqual([1, 1, 0, 1])
})
