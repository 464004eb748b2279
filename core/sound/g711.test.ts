import { describe, expect, it } from 'vitest'
import { encode, SAMPLES, type Law } from './g711'

describe.each<Law>(['PCMU', 'PCMA'])('%s', (law) => {
  it('gives back each byte’s own sample', () => {
    const samples = SAMPLES[law]
    const back = encode(
      law,
      Float32Array.from(samples, (sample) => sample / 32_768),
    )
    back.forEach((byte, i) => expect(samples[byte]).toBe(samples[i]))
  })

  it('is within 1 part in 20 of what was said, over 40 dB', () => {
    for (let dB = 0; dB > -42; dB -= 3) {
      const sample = 10 ** (dB / 20) * 0.97
      const heard = SAMPLES[law][encode(law, Float32Array.of(sample))[0]] / 32_768
      expect(Math.abs(heard - sample) / sample).toBeLessThan(0.05)
    }
  })
})

it('agrees with the recommendation’s ends of the scale', () => {
  // G.711, tables 1a and 2a: the largest decoder outputs, 8031 and 4032, at 14 and 13 bits
  expect([SAMPLES.PCMU[0x80], SAMPLES.PCMU[0x00], SAMPLES.PCMU[0xff]]).toEqual([8031 * 4, -8031 * 4, 0])
  expect([SAMPLES.PCMA[0xaa], SAMPLES.PCMA[0x2a], SAMPLES.PCMA[0xd5]]).toEqual([4032 * 8, -4032 * 8, 8])
})
