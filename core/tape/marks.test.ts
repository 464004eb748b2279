import { expect, it } from 'vitest'
import { beyond, keywordsOf, phraseStarts, speakerStarts } from './marks'

it('keywords of a mark stand behind a #', () => {
  expect(keywordsOf({ text: 'good bit #Ferry, again #night-boat #' })).toEqual(['ferry', 'night-boat'])
})

it('stepping goes on to the next place, and back past the one just left', () => {
  const places = [100, 500, 900]
  expect([
    beyond(places, 500, 1, 50),
    beyond(places, 900, 1, 50),
    beyond(places, 520, -1, 50),
    beyond(places, 560, -1, 50),
    beyond(places, 100, -1, 50),
  ]).toEqual([900, null, 100, 500, null])
})

it('phrases and speakers begin where one ends', () => {
  const words = ['a.', 'b', 'c'].map((text, i) => ({ text, from: i * 100, to: i * 100 + 90, speaker: i < 2 ? 'A' : 'B' }))
  expect(phraseStarts(words, (i) => words[i].text.endsWith('.'))).toEqual([0, 100])
  expect(speakerStarts(words)).toEqual([0, 200])
})
