import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { lineAt } from '../sound/level'
import { applyAll, applyAndInvert } from '../steps/document'
import { actualityType, clipLength, type Actuality, type ActualityStep } from './actuality'
import { piece, shareOf } from './arbitrary'
import { shapeLevel } from './levelLine'
import { addPoint, levelPoints, movePoint, removePoint } from './levelPoints'

const whole: Actuality = {
  kind: 'actuality',
  slug: '',
  speaker: '',
  role: '',
  story: null,
  spans: [{ tape: 'quay', from: 10_000, to: 90_000, sound: 'tape' }],
  head: 0,
  tail: 0,
}
const done = (document: Actuality, steps: ActualityStep[]) => applyAll(actualityType, document, steps)
const points = (document: Actuality) => (document.spans[0].level ?? []).map(({ at, dB }) => [at, dB])
const line = done(
  whole,
  shapeLevel(whole, { from: 5000, to: 15_000 }, (dB) => dB - 9),
)

describe('single points of a level line', () => {
  it('are moved in their own span, and what comes and goes beside them goes along', () => {
    expect(points(line)).toEqual([
      [15_000, 0],
      [16_200, -9],
      [23_800, -9],
      [25_000, 0],
    ])
    expect(points(done(line, movePoint(line, 6200, { at: 7000, dB: -4.04 })))).toEqual([
      [15_800, 0],
      [17_000, -4],
      [23_800, -9],
      [25_000, 0],
    ])
    const past = done(line, movePoint(line, 6200, { at: 79_000, dB: -99 }))
    expect(points(past)).toEqual([
      [22_599, 0],
      [23_799, -60],
      [23_800, -9],
      [25_000, 0],
    ])
    const before = done(line, movePoint(line, 6200, { at: -500, dB: -9 }))
    expect(points(before)[1][0]).toBeGreaterThanOrEqual(10_000)
    const { document, inverse } = applyAndInvert(actualityType, line, movePoint(line, 15_000, { at: 14_000, dB: 1 }))
    expect(applyAll(actualityType, document, inverse)).toEqual(line)
    expect(movePoint(line, 6000, { at: 7000, dB: 0 })).toEqual([])
    expect(movePoint(line, 99_000, { at: 7000, dB: 0 })).toEqual([])
  })

  it('are added where the line is, with shoulders, so that moving one changes nothing further off', () => {
    const added = done(whole, addPoint(whole, 40_000))
    expect(points(added)).toEqual([
      [38_000, 0],
      [50_000, 0],
      [62_000, 0],
    ])
    const up = done(added, movePoint(added, 40_000, { at: 40_000, dB: 4 }))
    expect([30_000, 50_000, 70_000].map((at) => lineAt(up.spans[0].level!, at))).toEqual([0, 4, 0])
    const later = done(up, movePoint(up, 40_000, { at: 45_000, dB: 4 }))
    expect(points(later)).toEqual([
      [43_000, 0],
      [55_000, 4],
      [67_000, 0],
    ])
    // near to others it needs no shoulder
    const between = done(line, addPoint(line, 10_000))
    expect(points(between)).toEqual([
      [15_000, 0],
      [16_200, -9],
      [20_000, -9],
      [23_800, -9],
      [25_000, 0],
    ])
  })

  it('are removed with the shoulders that then say nothing', () => {
    const added = done(whole, addPoint(whole, 40_000))
    const up = done(added, movePoint(added, 40_000, { at: 40_000, dB: 4 }))
    expect(done(up, removePoint(up, 40_000)).spans).toEqual(whole.spans)
    expect(points(done(line, removePoint(line, 6200)))).toEqual([
      [15_000, 0],
      [23_800, -9],
      [25_000, 0],
    ])
    expect(removePoint(line, 4999)).toEqual([])
    // a line that is lower all along stays lower
    const flat: Actuality = {
      ...whole,
      spans: [
        {
          ...whole.spans[0],
          level: [
            { at: 20_000, dB: -6 },
            { at: 30_000, dB: -6 },
          ],
        },
      ],
    }
    expect(points(done(flat, removePoint(flat, 10_000)))).toEqual([[30_000, -6]])
  })

  it('change no length, stay in order, and are taken back, wherever they are', () =>
    fc.assert(
      fc.property(piece, shareOf, shareOf, (before, a, b) => {
        const at = Math.floor(a * (clipLength(before) - 1))
        const added = applyAndInvert(actualityType, before, addPoint(before, at))
        const there = levelPoints(added.document)
        const moved = there.length
          ? applyAndInvert(
              actualityType,
              added.document,
              movePoint(added.document, there[Math.floor(b * (there.length - 1))].at, { at: Math.floor(b * clipLength(before)), dB: -5 }),
            )
          : null
        for (const one of [added, ...(moved ? [moved] : [])]) {
          expect(clipLength(one.document)).toBe(clipLength(before))
          for (const { level = [] } of one.document.spans)
            expect(level.every((point, i) => i === 0 || point.at > level[i - 1].at)).toBe(true)
        }
        expect(applyAll(actualityType, added.document, added.inverse)).toEqual(before)
        if (moved) expect(applyAll(actualityType, moved.document, moved.inverse)).toEqual(added.document)
      }),
    ))
})
