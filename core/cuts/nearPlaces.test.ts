import { expect, it } from 'vitest'
import { cuts, plainJoin, type Span } from '../edits/editList'
import type { Word } from '../tape/words'
import { nearPlaces } from './nearPlaces'

const WORDS = 'and then the harbour the old harbour office'
  .split(' ')
  .map((text, i): Word => ({ text, from: i * 1000 + 50, to: i * 1000 + 950 }))
const list: Span[] = [
  { tape: 'a', from: 0, to: 3000, sound: 'tape' },
  { tape: 'a', from: 5000, to: 8000, sound: 'tape', join: plainJoin() },
]

it('a word that stands at the cut goes, or one that went comes back', () => {
  const { earlier, later } = nearPlaces(cuts(list)[0], WORDS)
  expect(earlier).toEqual([
    { left: 2050, right: 5000, word: 'the', said: false },
    { left: 3000, right: 4050, word: 'the', said: true },
  ])
  expect(later).toEqual([
    { left: 3950, right: 5000, word: 'harbour', said: true },
    { left: 3000, right: 5950, word: 'old', said: false },
  ])
})

it('none where another tape or room tone comes', () => {
  expect(nearPlaces(cuts([list[0], { ...list[1], tape: 'b' }])[0], WORDS)).toEqual({ earlier: [], later: [] })
  expect(nearPlaces(cuts([list[0], { ...list[1], sound: 'tone' }])[0], WORDS)).toEqual({ earlier: [], later: [] })
})
