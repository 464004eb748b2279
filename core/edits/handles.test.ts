import fc from 'fast-check'
import { expect, it } from 'vitest'
import { applyAll, applyAndInvert } from '../steps/document'
import { actualityType, clipLength, wordsLength, type Actuality } from './actuality'
import { piece as anyPiece } from './arbitrary'
import { changeHandle } from './handles'

const piece: Actuality = {
  kind: 'actuality',
  slug: '',
  speaker: '',
  role: '',
  story: null,
  spans: [{ tape: 'a', from: 1000, to: 9000, sound: 'tape' }],
  head: 300,
  tail: 200,
}
const done = (end: 'head' | 'tail', by: number) => applyAll(actualityType, piece, changeHandle(piece, end, by, 500))

it('a handle grows and shrinks by its tape, and the words stay as long as they are', () => {
  expect(done('head', 500)).toMatchObject({ spans: [{ from: 500, to: 9000 }], head: 800, tail: 200 })
  expect(done('tail', -150)).toMatchObject({ spans: [{ from: 1000, to: 8850 }], head: 300, tail: 50 })
  for (const [end, by] of [
    ['head', 700],
    ['head', -9000],
    ['tail', 300],
    ['tail', -9000],
  ] as const)
    expect(wordsLength(done(end, by))).toBe(wordsLength(piece))
})

it('a handle grows by what is free of the tape, then by room, and shrinks to where the words begin', () => {
  expect(done('head', 5000)).toMatchObject({
    spans: [
      { sound: 'room', from: 500, to: 5000 },
      { from: 500, to: 9000 },
    ],
    head: 5300,
  })
  expect(done('tail', 5000)).toMatchObject({
    spans: [
      { from: 1000, to: 9500 },
      { sound: 'room', from: 9500, to: 14_000 },
    ],
    tail: 5200,
  })
  const wide = done('tail', 5000)
  expect(applyAll(actualityType, wide, changeHandle(wide, 'tail', 700, 500)).spans[1]).toMatchObject({
    sound: 'room',
    from: 9500,
    to: 14_700,
  })
  expect(done('head', -5000)).toMatchObject({ spans: [{ from: 1300, to: 9000 }], head: 0 })
})

it('changed handles are taken back, on any piece', () =>
  fc.assert(
    fc.property(anyPiece, fc.boolean(), fc.integer({ min: -3000, max: 3000 }), (before, head, by) => {
      const { document, inverse } = applyAndInvert(actualityType, before, changeHandle(before, head ? 'head' : 'tail', by, 100_000))
      expect(applyAll(actualityType, document, inverse)).toEqual(before)
      expect(clipLength(document) - document.head - document.tail).toBe(clipLength(before) - before.head - before.tail)
    }),
  ))
