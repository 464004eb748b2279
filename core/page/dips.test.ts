import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { lineAt } from '../sound/level'
import { RATE } from '../time'
import { dipLine, levelUnder, underOf, USUAL_DIP, voicesHeld } from './dips'

const s = RATE
const voice = (at: number, words: number) => ({ at: at * s, words: words * s })
const line = (from: number, to: number, voices: ReturnType<typeof voice>[], sections: Parameters<typeof underOf>[1] = []) => {
  const place = { from: from * s, to: to * s }
  const points = dipLine(place, underOf(voicesHeld(voices, USUAL_DIP.hold), sections, place.to), USUAL_DIP)
  return { points, at: (second: number) => (points.length ? lineAt(points, Math.round((second - from) * s)) : 0) }
}

describe('a bed under voices', () => {
  it('is down before the first word, and back a while after the last', () => {
    const bed = line(0, 30, [voice(10, 5)])
    expect([bed.at(9.3), bed.at(10), bed.at(15), bed.at(16.5)]).toEqual([0, -13, -13, 0])
    expect(bed.at(9.65)).toBeCloseTo(-6.5, 3)
    expect(bed.at(15.75)).toBeCloseTo(-6.5, 3)
  })

  it('stays down through a short pause, and comes back in a long one', () => {
    const bed = line(0, 60, [voice(10, 5), voice(17, 5), voice(30, 5)])
    expect(bed.at(16)).toBe(-13)
    expect(bed.at(25)).toBe(0)
  })

  it('begins under where a voice speaks already', () => {
    expect(line(12, 30, [voice(10, 5)]).points[0]).toEqual({ at: 0, dB: -13 })
    // half way down
    expect(line(9.65, 30, [voice(10, 5)]).points[0].dB).toBeCloseTo(-6.5, 3)
  })

  it('is under and up as its sections say, whoever speaks', () => {
    const bed = line(
      0,
      60,
      [voice(10, 20)],
      [
        { at: 15 * s, is: 'up' },
        { at: 25 * s, is: 'under' },
      ],
    )
    expect([bed.at(12), bed.at(20), bed.at(26), bed.at(50)]).toEqual([-13, 0, -13, -13])
  })

  it('goes deep under from a place on, and is as high as it was under after it', () => {
    const place = { from: 2 * s, to: 60 * s }
    const voices = [{ from: 10 * s, to: 40 * s }]
    const sections = [
      { at: 20 * s, is: 'deep' as const },
      { at: 30 * s, is: 'under' as const },
      { at: 35 * s, is: 'up' as const },
    ]
    const levels = (deep?: number) => {
      const points = levelUnder(place, voices, sections, { ...USUAL_DIP, deep })
      return [5, 12, 19, 20, 25, 30, 32, 34.9, 37, 50].map((second) => Math.round(lineAt(points, (second - 2) * s) * 10) / 10)
    }
    expect(levels(-20)).toEqual([0, -13, -13, -20, -20, -20, -13, -13, 0, 0])
    // six decibels below where nothing else is set
    expect(levels()[4]).toBe(-19)
    // also where nobody speaks
    const alone = levelUnder(place, [], [{ at: 20 * s, is: 'deep' }], USUAL_DIP)
    expect([lineAt(alone, 10 * s), lineAt(alone, 30 * s)]).toEqual([0, -19])
  })

  it('is never louder than up nor softer than under, and its points go forward, however its times are set', () => {
    const seconds = fc.integer({ min: 0, max: 90 })
    fc.assert(
      fc.property(
        fc.array(fc.tuple(seconds, fc.integer({ min: 1, max: 20 })), { maxLength: 8 }),
        fc.record({
          down: fc.integer({ min: 0, max: 5 * s }),
          back: fc.integer({ min: 0, max: 5 * s }),
          hold: fc.integer({ min: 0, max: 3 * s }),
        }),
        seconds,
        (voices, times, from) => {
          const placed = voices.map(([at, words]) => voice(at, words))
          const dip = { dB: -15, ...times }
          const points = dipLine({ from: from * s, to: 100 * s }, underOf(voicesHeld(placed, dip.hold), [], 100 * s), dip)
          points.forEach(({ at, dB }, i) => {
            expect(dB).toBeLessThanOrEqual(0)
            expect(dB).toBeGreaterThanOrEqual(-15)
            if (i) expect(at).toBeGreaterThanOrEqual(points[i - 1].at)
          })
          for (const { at, words } of placed) if (at >= from * s) expect(lineAt(points, at + words / 2 - from * s)).toBeCloseTo(-15, 6)
        },
      ),
    )
  })
})
