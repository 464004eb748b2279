import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyAll, applyAndInvert, exchange } from '../steps/document'
import { timingOf, transcriptOf, transcriptType, wordsOf, type SaidWord, type Transcript, type TranscriptStep } from './transcript'

const said = (text: string, from: number): SaidWord => ({ text, from, to: from + 90 })
const start: Transcript = {
  kind: 'transcript',
  words: ['so', 'take', 'me', 'back', 'to', 'the', 'night'].map((text, i) => said(text, i * 100)),
  voices: { v1: 'Tamsin Roe' },
}

/** A step that fits: some words become others that lie in their time; or a voice's name. */
function fitting({ words, voices }: Transcript, [at, count, more, name]: [number, number, number, number]): TranscriptStep {
  if (name < 3 && words.length)
    return {
      type: 'times',
      moves: words.flatMap((word, i) =>
        (i + at) % 3 === 0
          ? [{ at: i, was: timingOf(word), now: { from: word.from + 1 + more, to: word.to + 1, ...(more ? { checked: true } : {}) } }]
          : [],
      ),
    }
  if (name > 7) return { type: 'voice', voice: 'v1', name: more ? `n${more}` : undefined, was: voices.v1 }
  const from = at % (words.length + 1)
  const out = words.slice(from, from + count)
  const time = out[0]?.from ?? (words[from - 1]?.to ?? 0) + name
  return { type: 'words', at: from, out, in: Array.from({ length: more }, (_, i) => said(`w${at}${i}`, time + i)) }
}
const drawn = fc.tuple(fc.nat(9), fc.nat(3), fc.nat(3), fc.nat(9))

describe('a transcript', () => {
  it('is what it was once its steps are taken back', () =>
    fc.assert(
      fc.property(fc.array(drawn, { maxLength: 8 }), (list) => {
        let document = start
        let back: TranscriptStep[] = []
        for (const one of list) {
          const done = applyAndInvert(transcriptType, document, [fitting(document, one)])
          document = done.document
          back = [...done.inverse, ...back]
        }
        expect(applyAll(transcriptType, document, back)).toEqual(start)
      }),
    ))

  it('comes to the same whichever of two goes first', () => {
    let met = 0
    fc.assert(
      fc.property(drawn, drawn, (a, b) => {
        const [mine, theirs] = [fitting(start, a), fitting(start, b)]
        const both = exchange(transcriptType, [mine], [theirs])
        expect(exchange(transcriptType, [theirs], [mine]) === null).toBe(both === null)
        if (!both) return
        met++
        expect(applyAll(transcriptType, start, [mine, ...both.theirs])).toEqual(applyAll(transcriptType, start, [theirs, ...both.mine]))
      }),
      { numRuns: 1000 },
    )
    expect(met).toBeGreaterThan(300)
  })

  it('is put on the sound after a correction, which can be taken back all the same', () => {
    const wrong = start.words[3]
    const correct: TranscriptStep = { type: 'words', at: 3, out: [wrong], in: [{ ...wrong, text: 'black', rough: true }] }
    const corrected = transcriptType.apply(start, correct)
    const times: TranscriptStep = { type: 'times', moves: [{ at: 3, was: timingOf(corrected.words[3]), now: { from: 305, to: 377 } }] }
    const aligned = transcriptType.apply(corrected, times)
    expect(aligned.words[3]).toEqual({ text: 'black', from: 305, to: 377 })
    const back = exchange(transcriptType, [transcriptType.invert(start, correct)], [times])!
    expect(applyAll(transcriptType, aligned, back.mine)).toEqual(start)
  })

  it('refuses where two change the same word, and where the words are others by now', () => {
    const mine: TranscriptStep = { type: 'words', at: 2, out: start.words.slice(2, 4), in: [said('we', 200)] }
    const theirs: TranscriptStep = { type: 'words', at: 3, out: start.words.slice(3, 4), in: [said('black', 300)] }
    expect(exchange(transcriptType, [mine], [theirs])).toBeNull()
    expect(() => transcriptType.apply(start, { ...mine, at: 1 })).toThrow(RangeError)
    expect(() => transcriptType.apply(start, { type: 'voice', voice: 'v1', name: 'Piet', was: 'Maren' })).toThrow(RangeError)
  })

  it('names who speaks, everywhere at once', () => {
    const words = [
      { text: 'Nobody', from: 0, to: 9, speaker: 'Voice 1' },
      { text: 'told', from: 9, to: 20, speaker: 'Voice 2' },
      { text: '(door)', from: 30, to: 40 },
    ]
    const transcript = transcriptOf(words)
    expect(wordsOf(transcript)).toEqual(words)
    const named = transcriptType.apply(transcript, { type: 'voice', voice: 'v1', name: 'Piet Aldous', was: 'Voice 1' })
    expect(wordsOf(named).map(({ speaker }) => speaker)).toEqual(['Piet Aldous', 'Voice 2', undefined])
  })
})
