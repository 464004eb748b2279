import { describe, expect, it } from 'vitest'
import { clipLength, type Actuality } from '../edits/actuality'
import { RATE } from '../time'
import { joinTakes } from './joinTakes'

const s = RATE
const take = (from: number, to: number): Actuality => ({
  kind: 'actuality',
  slug: 'A line',
  speaker: 'Tamsin Roe',
  role: '',
  story: null,
  spans: [{ tape: 'voice', from: from * s, to: to * s, sound: 'tape' }],
  head: s / 2,
  tail: s / 2,
})

describe('two voice tracks as one', () => {
  it('follow each other with the room that was between them, as far as their handles have it', () => {
    const lengthOf = (gap: number) => clipLength(joinTakes(take(0, 4), take(10, 15), gap, 0)) / s
    expect([0, 0.3, 0.9, 4, -1].map((gap) => lengthOf(gap * s))).toEqual([8, 8.3, 8.9, 9, 8])
  })

  it('keep the outer handles, and the second is as loud as it was', () => {
    const both = joinTakes(take(0, 4), take(10, 15), 0, -3)
    expect([both.head, both.tail]).toEqual([s / 2, s / 2])
    expect(both.spans.map(({ gain }) => gain)).toEqual([undefined, -3])
    expect(both.spans.map(({ from, to }) => [from / s, to / s])).toEqual([
      [0, 3.5],
      [10.5, 15],
    ])
  })

  it('go on where one was cut from the other: no frame is lost, none said twice', () => {
    const both = joinTakes(take(0, 4), take(4, 8), s, 0)
    expect(both.spans.map(({ from, to }) => [from / s, to / s])).toEqual([
      [0, 4],
      [4, 8],
    ])
  })
})
