import fc from 'fast-check'
import { expect, it } from 'vitest'
import { applyAll, applyAndInvert, exchange } from './document'
import { recordsType, type RecordStep } from './records'

interface Note {
  id: string
  text: string
  order?: string
}
const type = recordsType<Note, { records: Record<string, Note> }>()
const ids = ['a', 'b', 'c', 'd']

const fitting = (records: Record<string, Note>, [kind, which, text]: [number, number, string]): RecordStep<Note>[] => {
  const id = ids[which]
  if (!records[id]) return [{ type: 'put', record: { id, text } }]
  if (kind === 0) return [{ type: 'drop', id }]
  return [{ type: 'set', id, key: kind === 1 ? 'text' : 'order', value: kind === 3 ? undefined : text }]
}
const drawn = fc.tuple(fc.nat(3), fc.nat(3), fc.string({ maxLength: 4 }))
const bag = fc.subarray(ids).map((present) => ({ records: Object.fromEntries(present.map((id) => [id, { id, text: 'x', order: 'o' }])) }))

it('gives back the bag when inverted', () =>
  fc.assert(
    fc.property(bag, fc.array(drawn, { maxLength: 6 }), (start, list) => {
      let document: { records: Record<string, Note> } = start
      let back: RecordStep<Note>[] = []
      for (const one of list) {
        const done = applyAndInvert(type, document, fitting(document.records, one))
        document = done.document
        back = [...done.inverse, ...back]
      }
      expect(applyAll(type, document, back)).toEqual(start)
    }),
  ))

it('ends equal on two sides', () =>
  fc.assert(
    fc.property(bag, drawn, drawn, (start, a, b) => {
      const mine = fitting(start.records, a)
      const theirs = fitting(start.records, b)
      const swapped = exchange(type, mine, theirs)
      if (!swapped) return
      expect(applyAll(type, applyAll(type, start, mine), swapped.theirs)).toEqual(
        applyAll(type, applyAll(type, start, theirs), swapped.mine),
      )
    }),
  ))

it('refuses what is not there, and what is there twice', () => {
  const start = { records: { a: { id: 'a', text: 'x' } } }
  expect(() => type.apply(start, { type: 'drop', id: 'b' })).toThrow(RangeError)
  expect(() => type.apply(start, { type: 'put', record: { id: 'a', text: 'y' } })).toThrow(RangeError)
})
