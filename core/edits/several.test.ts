import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyAll, applyAndInvert } from '../steps/document'
import { takeOut } from './acts'
import { actualityType, clipLength, type Actuality, type ActualityStep } from './actuality'
import { piece, shareOf } from './arbitrary'
import { shapeLevel } from './levelLine'
import { mute, muted } from './mute'
import { overEach } from './several'
import { united } from '../stretches'

const whole: Actuality = {
  kind: 'actuality',
  slug: '',
  speaker: '',
  role: '',
  story: null,
  spans: [{ tape: 'a', from: 0, to: 90_000, sound: 'tape' }],
  head: 0,
  tail: 0,
}
const passages = [
  { from: 10_000, to: 20_000 },
  { from: 40_000, to: 45_000 },
  { from: 70_000, to: 80_000 },
]

/** Null where nothing of the piece would be left. */
function stepsOrNone(make: () => ActualityStep[]): ActualityStep[] | null {
  try {
    return make()
  } catch (error) {
    if (error instanceof RangeError) return null
    throw error
  }
}

describe('what is done to several passages', () => {
  it('takes out exactly those, whatever the ones before change', () => {
    const after = applyAll(
      actualityType,
      whole,
      overEach(whole, passages, (now, stretch) => takeOut(now, stretch)),
    )
    expect(after.spans.map(({ from, to }) => [from, to])).toEqual([
      [0, 10_000],
      [20_000, 40_000],
      [45_000, 70_000],
      [80_000, 90_000],
    ])
  })

  it('tells each of them its number, from the last to the first', () => {
    const asked: number[] = []
    overEach(whole, passages, (_, __, index) => {
      asked.push(index)
      return []
    })
    expect(asked).toEqual([2, 1, 0])
  })

  it('is one act: it mutes all, and its inverse leads back', () => {
    const { document, inverse } = applyAndInvert(
      actualityType,
      whole,
      overEach(whole, passages, (now, stretch) => mute(now, stretch, true)),
    )
    expect(muted(document).map(({ from, to }) => ({ from, to }))).toEqual(passages)
    expect(applyAll(actualityType, document, inverse)).toEqual(whole)
  })

  it('shortens any piece by as much as they are long, or by room beside them too, and is taken back', () =>
    fc.assert(
      fc.property(piece, fc.array(shareOf, { minLength: 2, maxLength: 8 }), (start, shares) => {
        const length = clipLength(start)
        const places = shares.map((share) => Math.floor(share * length)).sort((a, b) => a - b)
        const chosen = united(places.flatMap((from, i) => (i % 2 === 0 && places[i + 1] > from ? [{ from, to: places[i + 1] }] : [])))
        const long = chosen.reduce((sum, { from, to }) => sum + to - from, 0)
        fc.pre(long < length)
        const steps = stepsOrNone(() => {
          const made = overEach(start, chosen, (now, stretch) => takeOut(now, stretch))
          applyAll(actualityType, start, made)
          return made
        })
        fc.pre(steps !== null)
        const { document, inverse } = applyAndInvert(actualityType, start, steps!)
        expect(clipLength(document)).toBeLessThanOrEqual(length - long)
        expect(applyAll(actualityType, document, inverse)).toEqual(start)
        // a level over all of them changes no length
        const shaped = applyAll(
          actualityType,
          start,
          overEach(start, chosen, (now, stretch) => shapeLevel(now, stretch, (dB) => dB - 3)),
        )
        expect(clipLength(shaped)).toBe(length)
      }),
    ))
})
