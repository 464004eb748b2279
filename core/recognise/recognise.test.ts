import { describe, expect, it } from 'vitest'
import { toFrames } from '../time'
import { chunksOf } from './chunks'
import { soundDistance } from '../align/likeSounds'
import { withTerms } from './terms'
import { wordsOfTokens } from './tokens'

const at = (from: number, to: number) => ({ from: toFrames(from), to: toFrames(to) })

describe('speech in pieces', () => {
  it('leaves silence out, keeps what surrounds speech, and joins what lies close', () => {
    expect(chunksOf([at(1, 3), at(3.5, 5), at(20, 22)], toFrames(22.1))).toEqual([at(0.75, 5.25), at(19.75, 22.1)])
    expect(chunksOf([], toFrames(9))).toEqual([])
  })

  it('is cut at pauses where it is long, in none of its pieces longer than a recogniser takes', () => {
    const speech = Array.from({ length: 40 }, (_, i) => at(i * 3, i * 3 + (i % 5 === 4 ? 2.2 : 2.8)))
    const chunks = chunksOf(speech, toFrames(121))
    expect(Math.max(...chunks.map(({ from, to }) => to - from))).toBeLessThanOrEqual(toFrames(24.5))
    for (const { from, to } of speech) expect(chunks.filter((chunk) => chunk.from <= from && chunk.to >= to)).toHaveLength(1)
    const [one, two] = chunksOf([at(0, 40)], toFrames(40))
    expect(one.to).toBe(two.from)
  })
})

describe('a story’s names', () => {
  const ways: Record<string, string> = {
    piet: 'P IY T',
    aldous: 'AO L D AH S',
    china: 'CH AY N AH',
    all: 'AO L',
    this: 'DH IH S',
    feet: 'F IY T',
    was: 'W AA Z',
    at: 'AE T',
    boat: 'B OW T',
  }
  const dictionary = (word: string) => (ways[word] ? [ways[word]] : [])
  const heard = (text: string, sure = 0.3) => text.split(' ').map((word, i) => ({ text: word, from: i, to: i + 1, sure }))
  const terms = [{ text: 'Piet Aldous', spoken: '' }]

  it('stand where something was heard that sounds like them', () => {
    const found = withTerms(heard('feet all this was at'), terms, dictionary)
    expect(found.map(({ text }) => text)).toEqual(['Piet', 'Aldous', 'was', 'at'])
    expect([found[0].from, found[1].to]).toEqual([0, 3])
  })

  it('do not stand where the recogniser was sure, or where it sounds otherwise', () => {
    expect(withTerms(heard('feet all this', 0.99), terms, dictionary).map(({ text }) => text)).toEqual(['feet', 'all', 'this'])
    expect(withTerms(heard('was at boat'), terms, dictionary).map(({ text }) => text)).toEqual(['was', 'at', 'boat'])
  })

  it('are compared by their sounds: a like one is nearer than another', () => {
    const distance = (a: string, b: string) => soundDistance(a.split(' '), b.split(' '))
    expect(distance('P IY T', 'P IY T')).toBe(0)
    expect(distance('P IY T', 'B IY T')).toBeLessThan(distance('P IY T', 'SH IY T'))
    expect(distance('P IY T', 'P IY')).toBe(1)
  })
})

// the kind of answer that a transducer model gives for “the boat won't leave”
const RECORDED = {
  tokens: ['▁THE', '▁BO', 'AT', '▁WON', "'T", '▁LEAVE'],
  timestamps: [0.32, 0.48, 0.6, 0.88, 1, 1.12],
  ys_log_probs: [-0.01, -0.2, -0.05, -0.9, -0.4, -0.02],
}

describe('pieces of words with their times', () => {
  it('become words, each until the next begins', () => {
    const words = wordsOfTokens(RECORDED, 2)
    expect(words.map(({ text, from }) => [text, from])).toEqual([
      ['the', 0.32],
      ['boat', 0.48],
      ["won't", 0.88],
      ['leave', 1.12],
    ])
    expect(words[0].to).toBe(0.48)
    expect(words[3].to).toBeLessThan(1.4)
    expect(words[2].sure).toBeCloseTo(Math.exp(-0.65), 2)
  })
})
