import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { factor, lineAt, lineBetween, lineWithin, type LevelPoint } from './level'

const points: LevelPoint[] = [
  { at: 1000, dB: 0 },
  { at: 2000, dB: -9 },
  { at: 5000, dB: -9 },
  { at: 6000, dB: 3 },
]

describe('a level line', () => {
  it('goes on flat before its first point and after its last, and eases between two', () => {
    expect([lineAt(points, 0), lineAt(points, 3000), lineAt(points, 9000), lineAt([], 5)]).toEqual([0, -9, 3, 0])
    expect(lineAt(points, 1500)).toBeCloseTo(-4.5, 9)
    // no corner at a point
    expect(Math.abs(lineAt(points, 1010) - lineAt(points, 1000))).toBeLessThan(0.01)
  })

  it('between two frames is the same line, with a point at each of them', () => {
    expect(lineBetween(points, 3000, 9000)).toEqual([
      { at: 3000, dB: -9 },
      { at: 5000, dB: -9 },
      { at: 6000, dB: 3 },
      { at: 9000, dB: 3 },
    ])
    expect(lineBetween([], 0, 10)).toEqual([
      { at: 0, dB: 0 },
      { at: 10, dB: 0 },
    ])
  })

  it('is told as far as it matters to a stretch, and not at all where it is flat at 0 dB', () => {
    expect(lineWithin(points, 2500, 4000)).toEqual([
      { at: 2000, dB: -9 },
      { at: 5000, dB: -9 },
    ])
    expect(lineWithin(points, 0, 900)).toBeUndefined()
    expect(lineWithin([], 0, 900)).toBeUndefined()
  })

  it('as it is told within a stretch, gives the same level everywhere in it', () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 10_000 }), fc.integer({ min: -30, max: 12 })), { maxLength: 8 }),
        fc.integer({ min: 0, max: 9000 }),
        fc.integer({ min: 1, max: 1000 }),
        (drawn, from, length) => {
          const line = [...new Map(drawn)].map(([at, dB]) => ({ at, dB })).sort((a, b) => a.at - b.at)
          const part = lineWithin(line, from, from + length) ?? []
          for (const at of [from, from + Math.floor(length / 2), from + length]) expect(lineAt(part, at)).toBe(lineAt(line, at))
        },
      ),
    ))
})

describe('a factor', () => {
  it('is what a level in dB means, to twelve places', () => {
    expect([factor(0), factor(-200)]).toEqual([1, 0])
    for (const dB of [-96, -20, -6, -0.1, 0.1, 3, 12, 24]) expect(factor(dB) / 10 ** (dB / 20)).toBeCloseTo(1, 12)
    expect(factor(-3) * factor(3)).toBeCloseTo(1, 12)
  })
})
