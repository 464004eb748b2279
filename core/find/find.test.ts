import { describe, expect, it } from 'vitest'
import type { Word } from '../tape/words'
import { RATE } from '../time'
import { bare } from './bare'
import { hitsIn, type Wanted } from './hits'
import { phrasesOf } from './phrases'

const said = (speaker: string, from: number, text: string): Word[] =>
  text
    .split(' ')
    .map((word, i) => ({ text: word, from: Math.round((from + i * 0.4) * RATE), to: Math.round((from + i * 0.4 + 0.35) * RATE), speaker }))
const read = (words: readonly Word[]) => words.map(({ text }) => text).join(' ')
const wanted = (text: string, ...alternatives: string[]): Wanted[] =>
  text.split(' ').map((word) => ({ word: word.replace('*', ''), open: word.endsWith('*'), alternatives: new Set(alternatives) }))

describe('what was said', () => {
  it('is looked for without case, marks and accents', () => {
    expect(['“It’s,”', 'CAFÉ', '1950s.', '—', 'o’clock'].map(bare)).toEqual(["it's", 'cafe', '1950s', '', "o'clock"])
  })

  it('lies in phrases of one speaker, whatever another puts in between', () => {
    const words = [...said('Piet', 0, 'There is no boat till six. And my mother waits'), ...said('Tamsin', 1.1, 'mm –')].sort(
      (a, b) => a.from - b.from,
    )
    const phrases = phrasesOf(words)
    expect(phrases.map(({ speaker, words }) => [speaker, read(words)])).toEqual([
      ['Piet', 'There is no boat till six.'],
      ['Piet', 'And my mother waits'],
      ['Tamsin', 'mm'],
    ])
    expect(read(phrases[0].ahead)).toBe('And my mother waits')
  })

  it('is broken at long pauses and after many words, and every word is filed once', () => {
    const words = [...said('', 0, Array.from({ length: 60 }, (_, i) => `w${i}`).join(' ')), ...said('', 30, 'late')]
    const phrases = phrasesOf(words)
    expect(phrases.map(({ words }) => words.length)).toEqual([24, 24, 12, 1])
    expect(phrases.flatMap(({ words }) => words.map(({ text }) => text))).toEqual(words.map(({ text }) => text))
  })

  it('is found as it was asked for, near to it, half typed, and across the end of a phrase', () => {
    const phrase = ['no', 'boat', 'till', 'six', 'and', 'my']
    expect(hitsIn(phrase, 4, wanted('boat till'))).toEqual([{ at: 1, exact: true }])
    expect(hitsIn(phrase, 4, wanted('boat ti*'))).toEqual([{ at: 1, exact: true }])
    expect(hitsIn(phrase, 4, wanted('bode till', 'boat'))).toEqual([{ at: 1, exact: false }])
    expect(hitsIn(phrase, 4, wanted('six and'))).toEqual([{ at: 3, exact: true }])
    expect(hitsIn(phrase, 4, wanted('and my'))).toEqual([])
    expect(hitsIn(phrase, 4, wanted('my mother'))).toEqual([])
  })
})
