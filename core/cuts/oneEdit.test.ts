import { describe, expect, it } from 'vitest'
import { actualityType, type Actuality } from '../edits/actuality'
import { takeOut } from '../edits/acts'
import { edits } from '../edits/editList'
import { changeGap } from '../edits/gaps'
import { applyAll } from '../steps/document'
import { withEditsBeside } from './oneEdit'

const whole: Actuality = {
  kind: 'actuality',
  slug: '',
  speaker: '',
  role: '',
  story: null,
  spans: [{ tape: 'a', from: 0, to: 100_000, sound: 'tape' }],
  head: 0,
  tail: 0,
}
const said = [
  { at: 1000, end: 9000 },
  { at: 20_000, end: 30_000 },
  { at: 40_000, end: 60_000 },
]

describe('a cut beside an earlier one', () => {
  const cut = applyAll(actualityType, whole, takeOut(whole, { from: 10_000, to: 15_000 }))
  it('becomes one with it where nothing is said between them', () => {
    const stretch = withEditsBeside(cut.spans, { from: 14_000, to: 18_000 }, said)
    expect(stretch).toEqual({ from: 10_000, to: 18_000 })
    const one = applyAll(actualityType, cut, takeOut(cut, stretch))
    expect(edits(one.spans)).toHaveLength(1)
  })
  it('stays one of its own where a word stands between them', () => {
    expect(withEditsBeside(cut.spans, { from: 32_000, to: 38_000 }, said)).toEqual({ from: 32_000, to: 38_000 })
  })
  it('takes the room that was added there with it', () => {
    const longer = applyAll(actualityType, cut, changeGap(cut, edits(cut.spans)[0], 2000, { left: 0, right: 0 }))
    expect(withEditsBeside(longer.spans, { from: 13_000, to: 18_000 }, [])).toEqual({ from: 10_000, to: 18_000 })
    expect(withEditsBeside(longer.spans, { from: 30_000, to: 31_000 }, [])).toEqual({ from: 30_000, to: 31_000 })
  })
})
