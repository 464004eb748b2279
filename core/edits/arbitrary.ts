import fc from 'fast-check'
import type { Actuality, ActualityStep } from './actuality'
import { holdTime, setEdges, takeOut } from './acts'
import { shapeLevel } from './levelLine'
import { movePassage } from './order'
import { layPatch, patches, takeOffPatch } from './patch'
import { cuts, listLength, normal, plainJoin, type EditList, type Span } from './editList'

/** Made-up edit lists and steps, for property tests. */

export const TAPE_LENGTH = 100_000

const span: fc.Arbitrary<Span> = fc
  .record({
    tape: fc.constantFrom('a', 'b'),
    from: fc.integer({ min: 0, max: TAPE_LENGTH - 1 }),
    length: fc.integer({ min: 1, max: 5000 }),
    sound: fc.constantFrom<Span['sound']>('tape', 'tape', 'tone'),
    fade: fc.option(fc.integer({ min: 0, max: 2000 }), { nil: undefined }),
  })
  .map(({ tape, from, length, sound, fade }) => ({
    tape,
    from,
    to: Math.min(TAPE_LENGTH, from + length),
    sound,
    ...(fade === undefined ? {} : { join: { ...plainJoin(), fade } }),
  }))

export const editList: fc.Arbitrary<EditList> = fc.array(span, { minLength: 1, maxLength: 8 }).map(normal)

export const piece: fc.Arbitrary<Actuality> = editList.map((spans) => ({
  kind: 'actuality',
  slug: 'Nobody told us',
  speaker: '',
  role: '',
  story: null,
  spans,
  head: 0,
  tail: 0,
}))

/** A step that fits the document; drawn from numbers, so that it can be drawn again for a later one. */
export const drawStep = (document: Actuality, [kind, a, b]: readonly [number, number, number]): ActualityStep[] => {
  const length = listLength(document.spans)
  const from = Math.floor(a * length)
  const to = Math.min(length, from + Math.floor(b * b * length))
  const joins = cuts(document.spans)
  switch (kind % 10) {
    case 0:
      return from < to ? takeOut(document, { from, to }) : []
    case 1:
      return from < to ? holdTime(document, { from, to }) : []
    case 2:
      return [{ type: 'replace', from, to: from, insert: [{ tape: 'b', from: 50, to: 450, sound: 'tape', join: plainJoin() }], after: plainJoin() }]
    case 3:
      return joins.length ? [{ type: 'join', at: joins[Math.floor(b * joins.length) % joins.length].at, join: { ...plainJoin(), fade: from, heard: true } }] : []
    case 4:
      return from < to ? shapeLevel(document, { from, to }, () => -6, 100) : []
    case 5:
      return movePassage(document, { from, to }, Math.floor(b * length))
    case 6: {
      const cut = joins[Math.floor(b * joins.length) % joins.length]
      return cut ? setEdges(document, cut, { left: cut.left.to - Math.floor(a * 300), right: cut.right.from + Math.floor(b * 300) }, plainJoin(), Math.floor(a * 100)) : []
    }
    case 7: {
      const laid = { tape: 'b', from: Math.floor(a * 5000), to: Math.floor(a * 5000) + 1 + Math.floor(b * 3000), level: Math.floor(b * 6) }
      return from < to ? layPatch(document, { from, to }, laid, { left: plainJoin(), right: plainJoin() }) : []
    }
    case 8: {
      const laid = patches(document)
      return laid.length ? takeOffPatch(document, laid[Math.floor(b * laid.length) % laid.length]) : []
    }
    default:
      return [{ type: 'set', key: a < 0.5 ? 'slug' : 'role', value: `name ${from}` }]
  }
}

export const numbers = fc.tuple(fc.nat(9), fc.double({ min: 0, max: 0.999, noNaN: true }), fc.double({ min: 0, max: 0.999, noNaN: true }))
