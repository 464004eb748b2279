import { describe, expect, it } from 'vitest'
import { RATE } from '../time'
import { random } from './random'
import { resampled } from './resample'

const tone = (hertz: number) => (from: number, to: number) =>
  Float32Array.from({ length: to - from }, (_, i) => 0.5 * Math.sin((2 * Math.PI * hertz * (from + i)) / RATE))

describe('a sound at another pace', () => {
  it.each([50, 1000, 9000, 18_000, 20_000])('is the same wave between its frames, to 90 dB below: %i Hz', (hertz) => {
    const step = 1 + 60e-6
    const out = resampled(tone(hertz), 1234.37, step, 4800)
    let off = 0
    for (let i = 0; i < out.length; i++) off += (out[i] - 0.5 * Math.sin((2 * Math.PI * hertz * (1234.37 + i * step)) / RATE)) ** 2
    expect(10 * Math.log10(off / out.length / 0.125)).toBeLessThan(-90)
  })

  it('at its own pace is what it was', () => {
    const next = random(3)
    const noise = Float32Array.from({ length: 2000 }, () => next() - 0.5)
    const out = resampled((from, to) => noise.subarray(from, to), 500, 1, 1000)
    for (let i = 0; i < out.length; i++) expect(out[i]).toBeCloseTo(noise[500 + i], 5)
  })

  it('made in parts is made the same', () => {
    const read = tone(440)
    const whole = resampled(read, 10, 1.00005, 3000)
    const parts = [0, 1000, 2000].flatMap((from) => [...resampled(read, 10 + from * 1.00005, 1.00005, 1000)])
    for (let i = 0; i < whole.length; i++) expect(parts[i]).toBeCloseTo(whole[i], 6)
  })
})
