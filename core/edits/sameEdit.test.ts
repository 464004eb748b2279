import { describe, expect, it } from 'vitest'
import { edits, plainJoin, type Span } from './editList'
import { editNow } from './sameEdit'

const RATE = 48_000
const span = (from: number, to: number, first = false): Span => ({
  tape: 't',
  from: from * RATE,
  to: to * RATE,
  sound: 'tape',
  ...(first ? {} : { join: plainJoin() }),
})

describe('an edit after a change', () => {
  const spans = [span(0, 4, true), span(5, 9), span(12, 15)]
  const [first, second] = edits(spans)

  it('is the one with a side where it was, however far it moved', () => {
    const moved = [span(0, 4, true), span(4.6, 9), span(12, 15)]
    expect(editNow(moved, first, first.at)?.right.from).toBe(4.6 * RATE)
    expect(editNow(moved, second, second.at)?.right.from).toBe(12 * RATE)
  })

  it('is the one near by where both of its sides were placed anew', () => {
    const placed = [span(0, 4.1, true), span(5.1, 9), span(12, 15)]
    expect(editNow(placed, first, first.at)?.left.to).toBe(4.1 * RATE)
  })

  it('is none where it was brought back', () => {
    const back = [span(0, 9, true), span(12, 15)]
    expect(editNow(back, first, first.at)).toBeUndefined()
  })
})
