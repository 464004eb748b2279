import { describe, expect, it } from 'vitest'
import { decibels, factor } from '../sound/level'
import { random as seeded } from '../sound/random'
import { compressor } from './compressor'
import type { Plan } from './plan'
import { renderAll, renderer, type ReadSound } from './render'

const LENGTH = 96_000
const LOUD = [40_000, 60_000] as const
const random = seeded(7)
/** A tone at -23 dBFS (root mean square) with some noise, which is 20 dB louder for a while: a laugh. */
const sound = Float32Array.from({ length: LENGTH }, (_, i) => {
  const loud = i >= LOUD[0] && i < LOUD[1] ? 10 : 1
  return loud * (factor(-20) * Math.sin(i / 30) + 0.001 * (random() - 0.5))
})
const read: ReadSound = (_, __, from, to) => {
  const out = new Float32Array(to - from)
  for (let i = Math.max(0, -from); i < out.length && from + i < LENGTH; i++) out[i] = sound[from + i]
  return out
}
const plan = (dB: number, ratio: number): Plan => ({
  length: LENGTH,
  channels: 1,
  strips: [{ sound: 'a', channel: 0, pan: { left: 1, right: 1 }, at: 0, length: LENGTH, from: 0, gain: 1, ramps: [] }],
  stages: [{ kind: 'compressor', dB, ratio }],
})
const power = (samples: Float32Array) => decibels(Math.sqrt(samples.reduce((sum, sample) => sum + sample * sample, 0) / samples.length))

describe('the safety compressor', () => {
  it('lets so many dB above its level come out as one, and leaves all else untouched', () => {
    const [out] = renderAll(plan(-11, 3), read)
    // 8 dB above it become 8/3
    expect(power(out.subarray(45_000, 55_000))).toBeCloseTo(-11 + (power(sound.subarray(45_000, 55_000)) + 11) / 3, 1)
    const { back } = compressor(-11, 3)
    expect(out.subarray(0, LOUD[0] - back)).toEqual(sound.subarray(0, LOUD[0] - back))
    expect(out.subarray(LOUD[1] + back)).toEqual(sound.subarray(LOUD[1] + back))
  })

  it('glides: its gain never jumps', () => {
    const [out] = renderAll(plan(-11, 3), read)
    let last = 1
    let most = 0
    for (let i = 0; i < LENGTH; i++) {
      if (Math.abs(sound[i]) < 0.01) continue
      const gain = out[i] / sound[i]
      most = Math.max(most, Math.abs(decibels(gain) - decibels(last)))
      last = gain
    }
    expect(most).toBeLessThan(0.15)
  })

  it('gives the same frames from wherever it is begun, in blocks of whatever size', () => {
    const [whole] = renderAll(plan(-16, 4), read)
    const pulled = renderer(plan(-16, 4), read)
    const turned: number[] = []
    for (let run = 0; run < 60; run++) {
      const from = Math.floor(random() * LENGTH)
      const block = new Float32Array(Math.min(LENGTH - from, 1 + Math.floor(random() * 3000)))
      pulled.pull(from, [block])
      turned.push(pulled.turned())
      expect(block).toEqual(whole.slice(from, from + block.length))
    }
    expect(Math.min(...turned)).toBeLessThan(0.6)
    expect(Math.max(...turned)).toBe(1)
  })

  it('turns both sides alike, by what both are', () => {
    const stage = compressor(-11, 3)
    const low = sound.map((sample) => sample / 4)
    const out = [0, 1].map(() => new Float32Array(LENGTH - stage.back - stage.ahead))
    stage.process([sound, low], out)
    const apart = out[0].findIndex((sample, i) => Math.abs(sample / 4 - out[1][i]) > 1e-6)
    expect(apart).toBe(-1)
    expect(stage.least).toBeLessThan(0.9)
  })
})
