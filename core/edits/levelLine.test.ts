import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { lineAt } from '../sound/level'
import { applyAll, applyAndInvert } from '../steps/document'
import { actualityType, clipLength, type Actuality } from './actuality'
import { piece, shareOf } from './arbitrary'
import { appliedLine, flattened, levelOff, shapeLevel } from './levelLine'
import { cuts, fromTape, spanAt, toTape } from './editList'

const whole: Actuality = {
  kind: 'actuality',
  slug: '',
  speaker: '',
  role: '',
  story: null,
  spans: [{ tape: 'quay', from: 10_000, to: 40_000, sound: 'tape' }],
  head: 0,
  tail: 0,
}
const done = (document: Actuality, steps: ReturnType<typeof shapeLevel>) => applyAll(actualityType, document, steps)
const lower = (dB: number) => dB - 9

describe('a level line', () => {
  it('brings a stretch down, softly, and leaves what lies beyond', () => {
    const { spans } = done(whole, shapeLevel(whole, { from: 5000, to: 15_000 }, lower))
    const at = (frame: number) => lineAt(spans[0].level!, frame)
    expect([at(12_000), at(15_000), at(16_300), at(20_000), at(25_000), at(35_000)]).toEqual([0, 0, -9, -9, 0, 0])
    expect(at(15_600)).toBeGreaterThan(-9)
    expect(at(15_600)).toBeLessThan(0)
  })

  it('adds to what is there, and is gone once all of it is as recorded', () => {
    const once = done(whole, shapeLevel(whole, { from: 5000, to: 15_000 }, lower))
    const twice = done(
      once,
      shapeLevel(once, { from: 8000, to: 12_000 }, (dB) => dB + 3),
    )
    expect(lineAt(twice.spans[0].level!, 20_000)).toBe(-6)
    expect(lineAt(twice.spans[0].level!, 17_000)).toBe(-9)
    const back = done(
      twice,
      shapeLevel(twice, { from: 0, to: 30_000 }, () => 0, 0),
    )
    expect(back.spans).toEqual(whole.spans)
  })

  it('never goes beyond what a line can do', () => {
    const { spans } = done(
      whole,
      shapeLevel(whole, { from: 5000, to: 15_000 }, () => -400),
    )
    expect(Math.min(...spans[0].level!.map(({ dB }) => dB))).toBe(-60)
  })

  it('cuts nothing, keeps the length, stays with its frames, and is taken back', () =>
    fc.assert(
      fc.property(piece, shareOf, shareOf, (before, a, b) => {
        const length = clipLength(before)
        const [from, to] = [a, b].map((share) => Math.floor(share * length)).sort((x, y) => x - y)
        const { document, inverse } = applyAndInvert(actualityType, before, shapeLevel(before, { from, to }, lower))
        expect(clipLength(document)).toBe(length)
        expect(cuts(document.spans).length).toBeLessThanOrEqual(cuts(before.spans).length)
        const middle = Math.floor((from + to) / 2)
        const place = toTape(before.spans, middle)
        if (place) expect(toTape(document.spans, middle)).toEqual(place)
        // added room is no place of the tape
        if (place && spanAt(before.spans, middle)?.span.sound !== 'room')
          expect(fromTape(document.spans, place.tape, place.frame)).not.toBeNull()
        expect(applyAll(actualityType, document, inverse)).toEqual(before)
      }),
    ))
})

it('is applied to the tape, where it alters nothing beside it, and is taken off there', () => {
  const { spans } = done(whole, shapeLevel(whole, { from: 5000, to: 15_000 }, lower))
  const line = appliedLine([{ at: 0, dB: 2 }], spans)
  expect([5000, 12_000, 20_000, 35_000, 45_000].map((at) => lineAt(line, at))).toEqual([2, 0, -9, 0, 2])
  expect(line).toEqual([...line].sort((a, b) => a.at - b.at))
  expect(lineAt(flattened(line, { from: 14_000, to: 26_000 }), 20_000)).toBe(0)
  expect(appliedLine(line, whole.spans)).toEqual(line)
})

it('is as recorded again where one takes it off, and elsewhere as it was', () => {
  const shaped = done(whole, shapeLevel(whole, { from: 5000, to: 15_000 }, lower))
  expect(done(shaped, levelOff(shaped, { from: 0, to: 30_000 })).spans).toEqual(whole.spans)
  const half = done(shaped, levelOff(shaped, { from: 0, to: 9000 })).spans[0].level!
  expect([lineAt(half, 16_500), lineAt(half, 22_000)]).toEqual([0, -9])
})
