import { describe, expect, it } from 'vitest'
import { applyAll } from '../steps/document'
import { confirmed, corrected, placeFor } from './corrected'
import { transcriptType, type SaidWord, type Transcript, type TranscriptStep } from './transcript'

const words = 'the bode left at mid night'
  .split(' ')
  .map((text, i): SaidWord => ({ text, from: i * 1000, to: i * 1000 + 900, voice: 'v1', sure: 0.4 }))
const start: Transcript = { kind: 'transcript', words, voices: {} }
const NOWHERE = { from: 0, to: 0 }
const after = (step: TranscriptStep | null) => applyAll(transcriptType, start, [step!]).words
const texts = (list: readonly SaidWord[]) => list.map(({ text }) => text).join(' ')

describe('a correction', () => {
  it('touches only the words that were written otherwise', () => {
    const step = corrected(start, 0, 6, 'the boat left at midnight', NOWHERE)!
    expect(step).toMatchObject({ at: 1, out: words.slice(1) })
    const now = after(step)
    expect(texts(now)).toBe('the boat left at midnight')
    expect(now[0]).toEqual(words[0])
    expect(corrected(start, 0, 6, texts(words), NOWHERE)).toBeNull()
  })

  it('of one word leaves its neighbours alone, takes its time, and has nobody’s trust', () => {
    const now = after(corrected(start, 1, 1, 'boat', NOWHERE))
    expect(now[1]).toEqual({ text: 'boat', from: 1000, to: 1900, voice: 'v1', rough: true })
    expect(now[2]).toEqual(words[2])
  })

  it('of capitals and commas keeps a word’s place on the sound', () => {
    const checked: Transcript = { ...start, words: words.map(({ sure: _, ...word }) => ({ ...word, checked: true as const })) }
    const step = corrected(checked, 3, 1, 'At,', NOWHERE)!
    expect(applyAll(transcriptType, checked, [step]).words[3]).toEqual({ text: 'At,', from: 3000, to: 3900, voice: 'v1' })
  })

  it('joins, splits, deletes, and adds what was missed', () => {
    expect(texts(after(corrected(start, 4, 2, 'midnight', NOWHERE)))).toBe('the bode left at midnight')
    const split = after(corrected(start, 1, 1, 'big boat', NOWHERE))
    expect(texts(split)).toBe('the big boat left at mid night')
    expect([split[1].to, split[2].from]).toEqual([1386, 1386])
    expect(texts(after(corrected(start, 1, 1, ' ', NOWHERE)))).toBe('the left at mid night')
    const added = after(corrected(start, placeFor(start, 950), 0, 'um (door)', { from: 950, to: 950 }, 'v1'))
    expect(added.slice(1, 3)).toMatchObject([
      { text: 'um', what: 'filler', voice: 'v1', rough: true },
      { text: '(door)', what: 'noise' },
    ])
    expect(added[2].to).toBeLessThanOrEqual(1000)
  })

  it('is a guess until somebody confirms it', () => {
    const step = confirmed(start, [1, 2, 3], true)!
    const checked = applyAll(transcriptType, start, [step])
    expect(checked.words[1]).toEqual({ text: 'bode', from: 1000, to: 1900, voice: 'v1', checked: true })
    expect(confirmed(checked, [1, 2, 3], true)).toBeNull()
    expect(applyAll(transcriptType, checked, [confirmed(checked, [1], false)!]).words[1]).not.toHaveProperty('checked')
    // what another speaker says between them stays as it is
    expect(after(confirmed(start, [1, 3], true)).map(({ checked: right }) => Boolean(right))).toEqual([
      false,
      true,
      false,
      true,
      false,
      false,
    ])
  })
})
