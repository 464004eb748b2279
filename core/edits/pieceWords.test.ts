import { describe, expect, it } from 'vitest'
import type { Word } from '../tape/words'
import { normal } from './editList'
import { pieceWords } from './pieceWords'

const words = 'um, so nobody told us. Nobody told anybody on the quay'
  .split(' ')
  .map((text, i): Word => ({ text, from: i * 1000, to: i * 1000 + 800, ...(i === 0 ? { what: 'filler' } : {}) }))

describe('the words of a piece', () => {
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
