import { describe, expect, it } from 'vitest'
import { decibels } from '../sound/level'
import { random as seeded } from '../sound/random'
import { RATE, type Frames } from '../time'
import { GRID, mended, mendedCell, TriedCells, type MendStep } from './chain'
import type { Filter } from './filter'
import { NOISE_BANDS } from './noise'

const LENGTH = 3 * GRID
const random = seeded(11)
const noise = Float32Array.from({ length: LENGTH }, () => random() - 0.5)
const reading = (sound: Float32Array) => (from: Frames, to: Frames) => {
  const out = new Float32Array(to - from)
  out.set(sound.subarray(Math.max(0, from), Math.min(sound.length, to)), Math.max(0, -from))
  return out
}
/** By how many dB a filter turns a tone, once it has settled. */
function turned(filter: Filter, hertz: number): number {
  const tone = Float32Array.from({ length: 2 * RATE }, (_, i) => 0.5 * Math.sin((2 * Math.PI * hertz * i) / RATE))
  const out = mended(reading(tone), [filter], 0, tone.length, tone.length)
  const power = (samples: Float32Array) => samples.subarray(RATE).reduce((sum, sample) => sum + sample * sample, 0)
  return decibels(Math.sqrt(power(out) / power(tone)))
}

const tenths = (dB: number) => Math.round(dB * 10) / 10 + 0

describe('a filter', () => {
  it.each([6, 12, 18, 24] as const)('cuts by %s dB an octave, and is 3 dB down at its frequency', (slope) => {
    const low: Filter = { kind: 'lowCut', hertz: 100, slope }
    expect(turned(low, 100)).toBeCloseTo(-3, 1)
    expect(turned(low, 2000)).toBeCloseTo(0, 1)
    expect(turned(low, 25) - turned(low, 12.5)).toBeGreaterThan(slope - 0.7)
    const high: Filter = { kind: 'highCut', hertz: 2000, slope }
    expect(turned(high, 2000)).toBeCloseTo(-3, 1)
    expect(turned(high, 100)).toBeCloseTo(0, 1)
    expect(turned(high, 4000)).toBeLessThan(-slope + 0.5)
  })

  it('turns a shelf, and no more', () => {
    const low: Filter = { kind: 'lowShelf', hertz: 300, dB: -8 }
    expect([turned(low, 30), turned(low, 300), turned(low, 5000)].map(tenths)).toEqual([-8, -4, 0])
    const high: Filter = { kind: 'highShelf', hertz: 3000, dB: 5 }
    expect([turned(high, 100), turned(high, 3000), turned(high, 18_000)].map(tenths)).toEqual([0, 2.5, 5])
  })

  it('dips as deep and as wide as it is told to', () => {
    const dip: Filter = { kind: 'dip', hertz: 1000, dB: -12, width: 1 }
    expect(turned(dip, 1000)).toBeCloseTo(-12, 1)
    // half an octave to either side it is half as deep
    expect(turned(dip, 1000 * Math.SQRT1_2)).toBeCloseTo(-6, 0)
    expect(turned(dip, 1000 * Math.SQRT2)).toBeCloseTo(-6, 0)
    expect(turned(dip, 8000)).toBeCloseTo(0, 0)
  })
})

describe('a treatment', () => {
  const steps: MendStep[] = [
    { kind: 'lowCut', hertz: 80, slope: 24 },
    { kind: 'hum', mains: 50, harmonics: 3 },
    { kind: 'dip', hertz: 400, dB: -9, width: 0.3 },
    { kind: 'gain', dB: -3 },
  ]

  it('comes to the same samples in blocks of any size, from wherever it is begun', () => {
    const whole = mended(reading(noise), steps, 0, LENGTH, LENGTH)
    for (let run = 0; run < 12; run++) {
      const from = Math.floor(random() * (LENGTH - 10))
      const to = Math.min(LENGTH, from + 1 + Math.floor(random() * 200_000))
      const some = mended(reading(noise), steps, from, to, LENGTH)
      expect(some.findIndex((sample, i) => sample !== whole[from + i])).toBe(-1)
    }
  })

  it('is not heard where a filter starts anew', () => {
    const filters = steps.filter(({ kind }) => kind !== 'hum')
    const whole = mended(reading(noise), filters, 0, LENGTH, LENGTH)
    // the same from a start a second earlier than the grid's: what it remembers has died away
    const later = mended(reading(noise.subarray(RATE)), filters, 0, LENGTH - RATE, LENGTH - RATE)
    const apart = Math.max(...[GRID - 10, GRID, GRID + 10, GRID + 5000].map((at) => Math.abs(whole[at] - later[at - RATE])))
    expect(apart).toBeLessThan(1e-6)
  })

  it('keeps a step to the stretch that it is for, with shoulders, across the grid too', () => {
    const within = { from: GRID - 5000, to: GRID + 9000 }
    const out = mended(reading(noise), [{ kind: 'gain', dB: -20, within }], 0, LENGTH, LENGTH)
    const by = (from: Frames, to: Frames) => [
      ...new Set(Array.from(out.slice(from, to), (sample, i) => (sample / noise[from + i]).toFixed(3))),
    ]
    expect(by(0, within.from - RATE / 20)).toEqual(['1.000'])
    expect(by(within.from, within.to)).toEqual(['0.100'])
    expect(by(within.to + RATE / 20, LENGTH)).toEqual(['1.000'])
    // half of the way through a shoulder half of it is heard
    expect(out[within.to + RATE / 40] / noise[within.to + RATE / 40]).toBeCloseTo(0.55, 2)
  })

  it('leaves out steps that are off', () => {
    const off = steps.map((step): MendStep => ({ ...step, off: true }))
    expect(mended(reading(noise), off, 5000, 9000, LENGTH)).toEqual(noise.slice(5000, 9000))
  })

  it('is the same while one figure after another is turned', () => {
    const tried = new TriedCells()
    const cut = (hertz: number): MendStep => ({ kind: 'lowCut', hertz, slope: 12 })
    const learnt = Array.from({ length: NOISE_BANDS }, () => -40)
    const louder = learnt.map((level) => level + 6)
    const turned: MendStep[][] = [
      [cut(80), { kind: 'noise', dB: 6, learnt }],
      [cut(80), { kind: 'noise', dB: 9, learnt }],
      [cut(80), { kind: 'noise', dB: 9, learnt: louder }],
      [cut(80), { kind: 'noise', dB: 9 }],
      [cut(120), { kind: 'noise', dB: 9 }],
      [{ kind: 'noise', dB: 9 }],
      [cut(80), { kind: 'noise', dB: 6, learnt, blend: 0.5 }],
      [cut(80), { kind: 'noise', dB: 12, learnt }],
    ]
    for (const cell of [0, GRID])
      for (const some of turned) {
        const made = tried.make('tape', reading(noise), some, cell, LENGTH)
        const alone = mendedCell(reading(noise), some, cell, LENGTH)
        expect(made.findIndex((sample, i) => !Object.is(sample, alone[i]))).toBe(-1)
      }
  })
})
