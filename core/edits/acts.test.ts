import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyAll } from '../steps/document'
import { actualityType, clipLength, wordsLength, type Actuality } from './actuality'
import { holdTime, markHeard, moveCut, moveEdge, setEdges, takeOut } from './acts'
import { piece, shareOf } from './arbitrary'
import { bringBack } from './bringBack'
import { edits, fromTape, spanAt, stands, toTape } from './editList'
import { nicks } from './gone'

const whole: Actuality = {
  kind: 'actuality',
  slug: 'Nobody told us',
  speaker: 'Piet Aldous',
  role: 'deckhand',
  story: null,
  spans: [{ tape: 'quay', from: 10_000, to: 20_000, sound: 'tape' }],
  head: 1000,
  tail: 500,
}
const done = (document: Actuality, steps: Parameters<typeof applyAll<Actuality, never>>[2] | ReturnType<typeof takeOut>) =>
  applyAll(actualityType, document, steps as ReturnType<typeof takeOut>)

describe('taking out', () => {
  it('closes up', () => {
    const after = done(whole, takeOut(whole, { from: 3000, to: 5000 }))
    expect(clipLength(after)).toBe(8000)
    expect(wordsLength(after)).toBe(6500)
    expect(nicks(after)).toMatchObject([{ how: 'closed', at: 3000, held: 0, tape: 'quay', from: 13_000, to: 15_000 }])
  })
  it('holds time', () => {
    const after = done(whole, holdTime(whole, { from: 3000, to: 5000 }))
    expect(clipLength(after)).toBe(10_000)
    expect(after.spans.map((span) => span.sound)).toEqual(['tape', 'tone', 'tape'])
    expect(nicks(after)).toMatchObject([{ how: 'held', at: 3000, held: 2000, tape: 'quay', from: 13_000, to: 15_000 }])
  })
  it('leaves a pause of room tone where one is asked for', () => {
    const after = done(whole, takeOut(whole, { from: 3000, to: 5000 }, undefined, 800))
    expect(clipLength(after)).toBe(8800)
    expect(after.spans.map((span) => span.sound)).toEqual(['tape', 'room', 'tape'])
    // all of it is one edit, and the pause stands for nothing
    expect(nicks(after)).toMatchObject([{ how: 'closed', at: 3000, held: 0, tape: 'quay', from: 13_000, to: 15_000 }])
  })
  it('takes handles with it where it reaches into them', () => {
    const after = done(whole, takeOut(whole, { from: 0, to: 1500 }))
    expect([after.head, after.tail, wordsLength(after)]).toEqual([0, 500, 8000])
    const short = done(whole, takeOut(whole, { from: 200, to: 400 }))
    expect([short.head, wordsLength(short)]).toEqual([800, 8500])
  })
})

describe('bringing back', () => {
  it.each([takeOut, holdTime])('gives the piece as it was', (out) =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 8000 }), fc.integer({ min: 1, max: 1500 }), (from, length) => {
        const after = done(whole, out(whole, { from, to: from + length }))
        expect(done(after, bringBack(after, nicks(after)[0])).spans).toEqual(whole.spans)
      }),
    ),
  )
  it.each([takeOut, holdTime])('gives a part, and the rest later', (out) => {
    let after = done(whole, out(whole, { from: 3000, to: 5000 }))
    after = done(after, bringBack(after, nicks(after)[0], { from: 13_500, to: 14_000 }))
    expect(nicks(after).map(({ from, to }) => [from, to])).toEqual([
      [13_000, 13_500],
      [14_000, 15_000],
    ])
    expect(clipLength(after)).toBe(out === takeOut ? 8500 : 10_000)
    after = done(after, bringBack(after, nicks(after)[1]))
    after = done(after, bringBack(after, nicks(after)[0]))
    expect(after.spans).toEqual(whole.spans)
  })
})

it('a level line goes on over what comes back', () => {
  const level = [{ at: 11_000, dB: -6 }]
  const softer: Actuality = { ...whole, spans: [{ ...whole.spans[0], level }] }
  for (const out of [takeOut, holdTime]) {
    const after = done(softer, out(softer, { from: 3000, to: 5000 }))
    expect(done(after, bringBack(after, nicks(after)[0])).spans).toEqual(softer.spans)
  }
})

describe('edges of a cut', () => {
  const cut = done(whole, takeOut(whole, { from: 3000, to: 5000 }))
  const only = (document: Actuality) => edits(document.spans)[0]
  it('move apart and together, never past each other', () => {
    const more = done(cut, moveEdge(cut, only(cut), 'left', 300, 50_000))
    expect(only(more).left.to).toBe(13_300)
    expect(clipLength(more)).toBe(8300)
    const less = done(cut, moveEdge(cut, only(cut), 'right', 300, 50_000))
    expect(only(less).right.from).toBe(15_300)
    expect(clipLength(less)).toBe(7700)
    const all = done(cut, moveEdge(cut, only(cut), 'left', 9999, 50_000))
    expect(clipLength(all)).toBe(10_000)
  })
  it('keep the length when the cut moves as a whole, whichever way', () =>
    fc.assert(
      fc.property(fc.integer({ min: -2500, max: 4500 }), (by) => {
        const moved = done(cut, moveCut(cut, only(cut), by, 50_000))
        expect(clipLength(moved)).toBe(clipLength(cut))
        expect(only(moved).at).toBe(3000 + by)
        expect(only(moved).right.from - only(moved).left.to).toBe(2000)
      }),
    ))
  it('go where they are put, and back', () =>
    fc.assert(
      fc.property(fc.integer({ min: -2500, max: 1900 }), fc.integer({ min: -50, max: 4500 }), (left, right) => {
        const { join } = only(cut)
        const there = done(cut, setEdges(cut, only(cut), { left: 13_000 + left, right: 15_000 + right }, { ...join, fade: 96 }))
        expect([only(there).left.to, only(there).right.from, only(there).join.fade]).toEqual([13_000 + left, 15_000 + right, 96])
        expect(done(there, setEdges(there, only(there), { left: 13_000, right: 15_000 }, join)).spans).toEqual(cut.spans)
      }),
    ))
  it('ask to be heard again', () => {
    const heard = done(cut, markHeard(cut, 3000))
    expect(only(heard).join.heard).toBe(true)
    expect(markHeard(heard, 3000)).toEqual([])
    expect(only(done(heard, moveEdge(heard, only(heard), 'left', -50, 50_000))).join.heard).toBe(false)
  })
})

it('finds the frame of the tape for each place, and back', () =>
  fc.assert(
    fc.property(piece, shareOf, (document, a) => {
      const position = Math.floor(a * clipLength(document))
      const place = toTape(document.spans, position)!
      fc.pre(fromTape(document.spans, place.tape, place.frame) !== null && stands(spanAt(document.spans, position)!.span))
      const back = fromTape(document.spans, place.tape, place.frame)!
      expect(toTape(document.spans, back)).toEqual(place)
    }),
  ))
