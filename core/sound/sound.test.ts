import { describe, expect, it } from 'vitest'
import { RATE } from '../time'
import { Levels } from '../hearing/levels'
import { rise } from './fade'
import { factor, lineAt } from './level'
import { levelFor, PEAK_LEVELS, PER_BIN } from './peaks'
import { packer, wavHeader } from './wav'
import { quietZero } from './zero'
import { noise } from './noise'

const rms = (samples: Float32Array) => Math.sqrt(samples.reduce((sum, x) => sum + x * x, 0) / samples.length)

describe('level', () => {
  it.each([-90, -18, -9, -6.02, -0.1, 0, 3, 12])('computes %d dB like the textbook', (dB) =>
    expect(factor(dB) / 10 ** (dB / 20)).toBeCloseTo(1, 11),
  )
  it('is silent far below', () => expect(factor(-300)).toBe(0))
  it('eases between points and goes on flat', () => {
    const line = [
      { at: 100, dB: 0 },
      { at: 200, dB: -10 },
    ]
    expect([lineAt(line, 0), lineAt(line, 150), lineAt(line, 999)]).toEqual([0, -5, -10])
    expect(lineAt(line, 110)).toBeGreaterThan(-0.5)
  })
})

describe('fades', () => {
  it('keep power', () => {
    for (let t = 0; t <= 1; t += 0.01) expect(rise('power', t) ** 2 + rise('power', 1 - t) ** 2).toBeCloseTo(1, 4)
  })
  it('keep gain', () => {
    for (let t = 0; t <= 1; t += 0.01) expect(rise('gain', t) + rise('gain', 1 - t)).toBeCloseTo(1, 12)
  })
})

describe('peaks', () => {
  it('hold the lowest, the highest and the mean of every bin, however they come in', () => {
    const samples = noise(200_000, 0.8)
    const whole = new Levels()
    whole.add(samples)
    whole.finish()
    const pieces = new Levels()
    const grown = PEAK_LEVELS.map((): number[] => [])
    const grow = (levels: Int16Array[]) => levels.forEach((bins, level) => grown[level].push(...bins))
    for (let at = 0; at < samples.length; at += 777) {
      pieces.add(samples.subarray(at, at + 777))
      grow(pieces.peaks.take())
    }
    pieces.finish()
    grow(pieces.peaks.take())
    const levels = whole.peaks.take()
    expect(grown).toEqual(levels.map((bins) => [...bins]))
    expect(levels.map((level) => level.length / PER_BIN)).toEqual([3125, 391, 49, 7])
    const second = samples.subarray(512, 1024)
    expect(levels[1][PER_BIN]).toBe(Math.round(Math.min(...second) * 32767))
    expect(levels[1][PER_BIN + 1]).toBe(Math.round(Math.max(...second) * 32767))
    expect(levels[1][PER_BIN + 2] / 32767).toBeCloseTo(rms(second), 3)
  })
  it('are chosen finer than the pixel', () => expect([10, 127, 128, 1024, 500_000].map(levelFor)).toEqual([0, 0, 0, 1, 3]))
})

describe('zero crossings', () => {
  it('are found where it is quiet', () => {
    const samples = Float32Array.from({ length: 960 }, (_, i) => Math.sin(i / 8) * (Math.abs(i - 600) / 600 + 0.01))
    const at = quietZero(samples, 480)
    expect(samples[at - 1] * samples[at]).toBeLessThanOrEqual(0)
    expect(Math.abs(at - 600)).toBeLessThan(120)
  })
  it('are left alone where there are none', () => expect(quietZero(new Float32Array(100).fill(0.3), 40)).toBe(40))
})

describe('WAV', () => {
  it('has a header that says what follows', () => {
    const view = new DataView(wavHeader(48_000, 2, 44_100, 24).buffer)
    expect(view.getUint32(40, true)).toBe(48_000 * 6)
    expect(view.getUint32(28, true)).toBe(44_100 * 6)
    expect(view.getUint16(34, true)).toBe(24)
  })
  it('packs 24 bits to the nearest step and clamps', () => {
    const bytes = packer(24)([Float32Array.of(0, 1, -1, 0.5, -1 / 8388608)])
    const values = Array.from({ length: 5 }, (_, i) => ((bytes[i * 3] | (bytes[i * 3 + 1] << 8) | (bytes[i * 3 + 2] << 16)) << 8) >> 8)
    expect(values).toEqual([0, 8388607, -8388608, 4194304, -1])
  })
  it('dithers 16 bits: below one step a tone is still there, the same each time', () => {
    const tone = Float32Array.from({ length: RATE }, (_, i) => (0.4 / 32768) * Math.sin((2 * Math.PI * 997 * i) / RATE))
    const out = new Int16Array(packer(16)([tone]).buffer)
    expect(new Int16Array(packer(16)([tone]).buffer)).toEqual(out)
    let along = 0
    for (let i = 0; i < RATE; i++) along += out[i] * Math.sin((2 * Math.PI * 997 * i) / RATE)
    expect((along * 2) / RATE).toBeCloseTo(0.4, 1)
    const error = out.reduce((sum, value, i) => sum + (value - tone[i] * 32768) ** 2, 0) / RATE
    expect(error).toBeCloseTo(1 / 12 + 2 / 12, 1)
  })
})
