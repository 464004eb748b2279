import { describe, expect, it } from 'vitest'
import { actualityType, clipLength, type Actuality } from '../edits/actuality'
import { plainJoin } from '../edits/editList'
import { applyAndInvert } from '../steps/document'
import { movedOver } from './moved'

const piece: Actuality = {
  kind: 'actuality',
  slug: 'Deck',
  speaker: '',
  role: '',
  story: null,
  head: 100,
  tail: 50,
  spans: [
    { tape: 'a', from: 1000, to: 5000, sound: 'tape', level: [{ at: 2000, dB: -6 }] },
    { tape: 'a', from: 9000, to: 12_000, sound: 'tape', join: { ...plainJoin(), heard: true } },
    { tape: 'b', from: 0, to: 700, sound: 'tape', join: plainJoin() },
  ],
  sides: { a: [{ name: '', channels: [0] }], b: [{ name: '', channels: [0] }] },
}
const joined = {
  id: 'c',
  frames: 100_000,
  sides: [
    { name: 'one', channels: [0] as [number] },
    { name: 'other', channels: [1] as [number] },
  ],
}

describe('a piece moved over to a joined tape', () => {
  it('keeps what it keeps, with levels and joins, and leaves other tapes alone', () => {
    const steps = movedOver(piece, 'a', joined, { offset: 480.4, drift: 0 })!
    const { document } = applyAndInvert(actualityType, piece, steps)
    expect(document.spans.map(({ tape, from, to }) => [tape, from, to])).toEqual([
      ['c', 1480, 5480],
      ['c', 9480, 12_480],
      ['b', 0, 700],
    ])
    expect(document.spans[0].level).toEqual([{ at: 2480, dB: -6 }])
    expect(document.spans[1].join?.heard).toBe(true)
    expect(document.sides).toEqual({ b: piece.sides!.b, c: joined.sides })
    expect(clipLength(document)).toBe(clipLength(piece))
  })

  it('is taken back whole', () => {
    const { document, inverse } = applyAndInvert(actualityType, piece, movedOver(piece, 'a', joined, { offset: 12, drift: 4e-5 })!)
    expect(applyAndInvert(actualityType, document, inverse).document).toEqual(piece)
  })

  it('of another tape stays', () => {
    expect(movedOver(piece, 'x', joined, { offset: 0, drift: 0 })).toBeNull()
  })
})
