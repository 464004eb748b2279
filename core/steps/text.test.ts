import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { backwards, bothChanges, caretAfter, changedText, changeOver, textChange, type TextChange } from './text'

/** A change of a text: some places, each cut by a little and with something put in. */
const changeOf = (text: string): fc.Arbitrary<TextChange> =>
  fc
    .array(fc.tuple(fc.noBias(fc.nat(Math.max(1, text.length))), fc.nat(3), fc.constantFrom('', 'a', 'ferry', ' ')), { maxLength: 4 })
    .map((edits) => {
      let now = text
      let change: TextChange = []
      for (const [at, cut, put] of edits) {
        const place = Math.min(at, now.length)
        const after = now.slice(0, place) + put + now.slice(place + cut)
        change = bothChanges(change, textChange(now, after))
        now = after
      }
      return change
    })
const texts = fc.constantFrom('', 'Nobody told us.', 'The night ferry sails at 23:40 from the north quay of Brackle.')
const withChanges = texts.chain((text) => fc.tuple(fc.constant(text), changeOf(text), changeOf(text)))

describe('changes of a text', () => {
  it('make one text of another, and lead back', () =>
    fc.assert(
      fc.property(withChanges, ([text, change]) => void expect(changedText(changedText(text, change), backwards(change))).toBe(text)),
      { numRuns: 500 },
    ))

  it('end equal, whoever was first, and keep what both wrote', () =>
    fc.assert(
      fc.property(withChanges, ([text, a, b]) => {
        const here = changedText(changedText(text, a), changeOver(b, a))
        expect(changedText(changedText(text, b), changeOver(a, b))).toBe(here)
        const put = (change: TextChange) =>
          change.reduce<number>((sum, part) => sum + (typeof part !== 'number' && 'put' in part ? part.put.length : 0), 0)
        expect(put(changeOver(a, b))).toBe(put(a))
      }),
      { numRuns: 2000 },
    ))

  it('are one where they follow each other', () =>
    fc.assert(
      fc.property(withChanges, ([text, a, b]) => {
        const second = changeOver(b, a)
        expect(changedText(text, bothChanges(a, second))).toBe(changedText(changedText(text, a), second))
      }),
      { numRuns: 1000 },
    ))

  it('are no larger than what differs', () => {
    expect(textChange('the ferry', 'the night ferry')).toEqual([4, { put: 'night ' }])
    expect(textChange('abc', 'abc')).toEqual([])
    expect(textChange('aaa', 'aa')).toEqual([2, { cut: 'a' }])
  })

  it('refuse a text that they were not made for', () => {
    expect(() => changedText('abc', [1, { cut: 'x' }])).toThrow(RangeError)
    expect(() => changedText('abc', [4, { put: 'x' }])).toThrow(RangeError)
  })

  it('take a caret along', () => {
    expect(caretAfter([2, { put: 'xyz' }], 5)).toBe(8)
    expect(caretAfter([2, { put: 'xyz' }], 2)).toBe(2)
    expect(caretAfter([1, { cut: 'bcd' }], 3)).toBe(1)
    expect(caretAfter([6, { cut: 'z' }], 3)).toBe(3)
  })
})
