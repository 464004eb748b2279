import { describe, expect, it } from 'vitest'
import { pieceWords } from '../edits/pieceWords'
import { normal } from '../edits/editList'
import { unstruck, without } from './tape'
import { endsPhrase, firstWordAfter, inCue, outCue, suggestSlug, wordsIn, type Word } from './words'

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
  it('follow a piece’s edits', () => {
    const list = normal([
      { tape: 't', from: 1000, to: 2900, sound: 'tape' },
      { tape: 't', from: 5000, to: 6900, sound: 'tape' },
      { tape: 't', from: 7000, to: 7900, sound: 'tone' },
    ])
    const kept = pieceWords(list, () => words)
    expect(kept.map((word) => word.text)).toEqual(['so', 'nobody', 'Nobody', 'told'])
    expect(kept[2].at).toBe(1900)
  })
  it('of a word cut in two show once', () => {
    const list = normal([
      { tape: 't', from: 1000, to: 1400, sound: 'tape' },
      { tape: 't', from: 1400, to: 2900, sound: 'tape', join: { fade: 0, shape: 'gain', origin: 'split', heard: false } },
    ])
    expect(pieceWords(list, () => words).map((word) => word.text)).toEqual(['so', 'nobody'])
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
    expect(
      normal(unstruck('t', { from: 10, to: 50 }, [{ from: 20, to: 30 }])).map((span) => [span.from, span.to, Boolean(span.join)]),
    ).toEqual([
      [10, 20, false],
      [30, 50, true],
    ])
  })
})
