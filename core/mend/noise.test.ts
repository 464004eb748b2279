import { describe, expect, it } from 'vitest'
import { RATE } from '../time'
import { hearNoise, LEAST_TO_LEARN, learnNoise, lessNoise, NOISE_BANDS } from './noise'
import { BINS, meansAround, soundOf, spectraOf } from './spectra'
import { dBFS, hissOf, less, voiceLike } from './voiceLike'

/** The second half of each 1.2 s is a pause: here the one from 3.1 to 3.5 s. */
const [PAUSE, PAUSE_END] = [3.1 * RATE, 3.5 * RATE]

describe('spectra', () => {
  it('make the run again that they were made of', () => {
    const run = hissOf(12_345, 0.1)
    const spectra = spectraOf(run)
    const again = new Float64Array(run.length)
    soundOf(spectra, new Float32Array(spectra.frames * BINS).fill(1), again)
    expect(again.findIndex((sample, i) => Math.abs(sample - run[i]) > 1e-12)).toBe(-1)
  })

  it('means are those of the neighbours that are there', () => {
    const values = hissOf(6 * BINS, 1)
    const meanAt = meansAround(values, 6, { frames: 2, bins: 3 })
    const around = (middle: number, reach: number, end: number) =>
      Array.from({ length: 2 * reach + 1 }, (_, i) => middle - reach + i).filter((one) => one >= 0 && one < end)
    for (let frame = 0; frame < 6; frame++) {
      const means = meanAt(frame)
      for (const bin of [0, 1, 500, BINS - 3, BINS - 1]) {
        const near = around(frame, 2, 6).flatMap((one) => around(bin, 3, BINS).map((other) => values[one * BINS + other]))
        expect(means[bin]).toBeCloseTo(near.reduce((sum, value) => sum + value, 0) / near.length, 12)
      }
    }
  })
})

describe('noise under a voice', () => {
  const voice = voiceLike(5)
  const noise = hissOf(voice.length, 0.006)
  const sound = voice.map((sample, i) => sample + noise[i])
  const learnt = learnNoise(sound.slice(PAUSE, PAUSE_END))

  it.each([
    ['learnt', learnt],
    ['followed', undefined],
  ])('goes by what is asked for in a pause, and what is left is nearer to the voice: %s', (_, known) => {
    const out = sound.slice()
    lessNoise(hearNoise(sound, known), 10, out)
    expect(dBFS(sound, PAUSE, PAUSE_END) - dBFS(out, PAUSE, PAUSE_END)).toBeCloseTo(10, 0)
    expect(dBFS(less(out, voice))).toBeLessThan(dBFS(noise) - 4)
    expect(Math.abs(dBFS(out, 2.5 * RATE, 2.9 * RATE) - dBFS(voice, 2.5 * RATE, 2.9 * RATE))).toBeLessThan(0.3)
  })

  it('is told for each band to a tenth of a dB, and not from what is too short or silent', () => {
    expect(learnt).toHaveLength(NOISE_BANDS)
    const twice = learnNoise(sound.slice(PAUSE, PAUSE_END).map((sample) => 2 * sample))
    expect(twice.every((level, i) => Math.abs(level - learnt[i] - 6.02) < 0.11)).toBe(true)
    expect(() => learnNoise(sound.slice(0, LEAST_TO_LEARN - 1))).toThrow(RangeError)
    expect(() => learnNoise(new Float64Array(RATE))).toThrow(RangeError)
  })

  it('of silence makes silence', () => {
    const out = new Float64Array(RATE)
    lessNoise(hearNoise(out, undefined), 12, out)
    expect(out.every((sample) => sample === 0)).toBe(true)
  })
})
