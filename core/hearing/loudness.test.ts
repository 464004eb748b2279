import { describe, expect, it } from 'vitest'
import { decibels } from '../sound/level'
import { random as seeded } from '../sound/random'
import { RATE, toFrames } from '../time'
import { Levels, STEP } from './levels'
import { loudnessOf, lufs, sliding, together } from './loudness'
import { TruePeak } from './truePeak'

/** A tone in stretches of seconds at levels in dBFS (of its peak), as EBU Tech 3341 and 3342 have them. */
function tones(stretches: readonly [seconds: number, level: number][], frequency = 1000, phase = 0): Float32Array {
  const parts = stretches.map(([seconds, level]) => ({ count: toFrames(seconds), height: 10 ** (level / 20) }))
  const out = new Float32Array(parts.reduce((sum, { count }) => sum + count, 0))
  let at = 0
  for (const { count, height } of parts)
    for (const end = at + count; at < end; at++) out[at] = height * Math.sin((2 * Math.PI * frequency * at) / RATE + phase)
  return out
}
const stereo = (samples: Float32Array) => {
  const { powers } = weigh(samples)
  return loudnessOf(together([powers, powers]))
}
const weigh = (samples: Float32Array, block = 7777) => {
  const meter = new Levels()
  for (let at = 0; at < samples.length; at += block) meter.add(samples.subarray(at, at + block))
  return meter
}

describe('loudness', () => {
  it('reads the signals of Tech 3341 as it says', () => {
    expect(stereo(tones([[20, -23]])).integrated).toBeCloseTo(-23, 1)
    expect(stereo(tones([[20, -33]])).integrated).toBeCloseTo(-33, 1)
    // what is below the gates does not count
    expect(
      stereo(
        tones([
          [10, -36],
          [60, -23],
          [10, -36],
        ]),
      ).integrated,
    ).toBeCloseTo(-23, 1)
    expect(
      stereo(
        tones([
          [10, -72],
          [10, -36],
          [60, -23],
          [10, -36],
          [10, -72],
        ]),
      ).integrated,
    ).toBeCloseTo(-23, 1)
    expect(
      stereo(
        tones([
          [20, -26],
          [20.1, -20],
          [20, -26],
        ]),
      ).integrated,
    ).toBeCloseTo(-23, 1)
  })
  it('reads the ranges of Tech 3342', () => {
    expect(
      stereo(
        tones([
          [20, -20],
          [20, -30],
        ]),
      ).range,
    ).toBeCloseTo(10, 0)
    expect(
      stereo(
        tones([
          [20, -20],
          [20, -15],
        ]),
      ).range,
    ).toBeCloseTo(5, 0)
    expect(
      stereo(
        tones([
          [20, -40],
          [20, -20],
        ]),
      ).range,
    ).toBeCloseTo(20, 0)
    expect(
      stereo(
        tones([
          [20, -50],
          [20, -35],
          [20, -20],
          [20, -35],
          [20, -50],
        ]),
      ).range,
    ).toBeCloseTo(15, 0)
  })
  it('finds the loudest three seconds and the loudest moment', () => {
    const read = stereo(
      tones([
        [10, -33],
        [3, -23],
        [10, -33],
      ]),
    )
    expect(read.shortTerm).toBeCloseTo(-23, 1)
    expect(
      stereo(
        tones([
          [5, -50],
          [0.4, -20],
          [5, -50],
        ]),
      ).momentary,
    ).toBeCloseTo(-20, 1)
  })
  it('one channel alone is 3 dB below two', () => {
    const { powers } = weigh(tones([[10, -23]]))
    expect(loudnessOf(powers).integrated).toBeCloseTo(-26.01, 1)
  })
  it('silence has none', () => {
    const read = loudnessOf(weigh(new Float32Array(RATE * 5)).powers)
    expect(read.integrated).toBe(-Infinity)
    expect(read.range).toBe(0)
    expect(lufs(0)).toBe(-Infinity)
  })
  it('is the same whatever the blocks', () => {
    const samples = tones([[3, -20]], 441)
    expect(weigh(samples, 100).powers).toEqual(weigh(samples, 48_000).powers)
    expect(weigh(samples).powers).toHaveLength(samples.length / STEP)
  })
  it('slides without drifting', () => {
    const powers = Array.from({ length: 3000 }, (_, i): number => (i % 1000 < 500 ? 1e-9 : 1))
    const slid = sliding(powers, 30)
    for (const i of [100, 999, 1700, 2500]) expect(slid[i]).toBeCloseTo(powers.slice(i, i + 30).reduce((a, b) => a + b) / 30, 12)
  })
})

const truePeak = (samples: Float32Array, block = 1000) => {
  const meter = new TruePeak()
  const levels = new Levels()
  for (let at = 0; at < samples.length; at += block) {
    const some = samples.subarray(at, at + block)
    meter.add(some, levels.add(some))
  }
  return decibels(meter.finish())
}
describe('true peak', () => {
  it('sees what lies between the samples', () => {
    // at a quarter of the rate and 45 degrees no sample comes within 3 dB of the wave's height
    const samples = tones([[1, -6]], RATE / 4, Math.PI / 4)
    expect(decibels(samples.reduce((most, x) => Math.max(most, Math.abs(x)), 0))).toBeCloseTo(-9, 1)
    expect(truePeak(samples.subarray(2000, 40_000))).toBeGreaterThan(-6.2)
  })
  it('is within 0.2 dB for tones of any place between the samples, to 12 kHz', () => {
    for (const frequency of [100, 997, RATE / 8, RATE / 6, 9000, RATE / 4])
      for (let phase = 0; phase < 1; phase += 0.17) {
        const fade = tones([[0.5, -3]], frequency, phase * Math.PI)
        for (let i = 0; i < 2000; i++) {
          fade[i] *= i / 2000
          fade[fade.length - 1 - i] *= i / 2000
        }
        expect(Math.abs(truePeak(fade) + 3)).toBeLessThan(0.2)
      }
  })
  it('finds what looking everywhere finds', () => {
    // four places a sample by the plain sum over a long windowed sinc
    const everywhere = (samples: Float32Array) => {
      let peak = 0
      for (let i = 40; i < samples.length - 40; i++)
        for (const offset of [1 / 8, 3 / 8, 5 / 8, 7 / 8]) {
          let sum = 0
          for (let k = -39; k <= 40; k++)
            sum +=
              (samples[i + k] * Math.sin(Math.PI * (k - offset)) * (0.5 + 0.5 * Math.cos((Math.PI * (k - offset)) / 40.5))) /
              (Math.PI * (k - offset))
          peak = Math.max(peak, Math.abs(sum))
        }
      return decibels(peak)
    }
    // nothing above 15 kHz, where filters of whatever length agree
    const below = (samples: Float32Array) =>
      samples.map((_, i) => {
        let sum = 0
        for (let k = -60; k <= 60; k++)
          sum +=
            (samples[i + k] ?? 0) *
            (k ? Math.sin((Math.PI * k * 15) / 24) / (Math.PI * k) : 15 / 24) *
            (0.5 + 0.5 * Math.cos((Math.PI * k) / 61))
        return sum
      })
    const next = seeded(3)
    const noise = below(Float32Array.from({ length: 6000 }, () => next() - 0.5))
    const clicks = below(Float32Array.from({ length: 6000 }, () => (next() < 0.01 ? next() - 0.5 : 0)))
    const square = below(tones([[0.1, 0]], 613).map((x) => Math.max(-0.5, Math.min(0.5, x * 3))))
    for (const samples of [noise, clicks, square])
      expect(
        Math.abs(truePeak(samples) - Math.max(everywhere(samples), decibels(samples.reduce((most, x) => Math.max(most, Math.abs(x)), 0)))),
      ).toBeLessThan(0.1)
  })
  it('passes over nothing that counts, whatever the blocks', () => {
    const samples = Float32Array.from({ length: 20_000 }, (_, i) => Math.sin(i * i * 1e-4) * (0.1 + (0.9 * i) / 20_000))
    const [whole, small] = [truePeak(samples, 20_000), truePeak(samples, 64)]
    expect(small).toBeCloseTo(whole, 9)
    const looked = new TruePeak()
    looked.add(samples, new Levels().add(samples))
    expect(looked.sample).toBeCloseTo(
      samples.reduce((most, x) => Math.max(most, Math.abs(x)), 0),
      9,
    )
  })
})
