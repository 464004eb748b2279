import { expect, it } from 'vitest'
import { WaveTaker } from './wave'

it('a wave has the highest sample of each part, on any side, in whatever blocks the sound comes', () => {
  const left = Float32Array.from({ length: 100 }, (_, i) => (i === 25 ? -0.5 : 0.1))
  const right = Float32Array.from({ length: 100 }, (_, i) => (i === 99 ? 0.8 : 0))
  for (const block of [100, 7]) {
    const taker = new WaveTaker(100, 4)
    for (let at = 0; at < 100; at += block) taker.add([left.subarray(at, at + block), right.subarray(at, at + block)])
    expect(taker.wave.map((height) => Math.round(100 * height))).toEqual([10, 50, 10, 80])
  }
})
