import { describe, expect, it } from 'vitest'
import { endsPhrase, firstWordAfter, inCue, outCue, suggestSlug, wordsIn, type Word } from './words'
import { without } from '../stretches'

const text = 'um, so nobody told us. Nobody told anybody on the quay'
const words: Word[] = text
  .split(' ')
  .map((word, i) => ({ text: word, from: i * 1000, to: i * 1000 + 800, ...(i === 0 ? { what: 'filler' } : {}) }))

describe('words', () => {
  it('are found by place', () => {
    expect(firstWordAfter(words, 1900)).toBe(2)
    expect(wordsIn(words, 2500, 4300).map((word) => word.text)).toEqual(['told'])
    expect(wordsIn(words, 2000, 4800).map((word) => word.text)).toEqual(['nobody', 'told', 'us.'])
  })
  it('end a phrase at a stop or a pause', () => expect([3, 4].map((i) => endsPhrase(words, i, 400))).toEqual([false, true]))
  it('give cues and a slug', () => {
    expect(inCue(words.slice(1))).toBe('so nobody told us.')
    expect(outCue(words)).toBe('anybody on the quay')
    expect(suggestSlug(words)).toBe('Nobody told us')
    expect(suggestSlug([])).toBe('')
  })
})

describe('strikes', () => {
  it('come out of what is pulled over them', () => {
    expect(
      without({ from: 0, to: 100 }, [
        { from: 20, to: 30 },
        { from: 25, to: 40 },
        { from: 90, to: 200 },
      ]),
    ).toEqual([
      { from: 0, to: 20 },
      { from: 40, to: 90 },
    ])
  })
})
