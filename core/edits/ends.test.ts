import { describe, expect, it } from 'vitest'
import { applyAll } from '../steps/document'
import type { Word } from '../tape/words'
import { toFrames } from '../time'
import { actualityType, type Actuality, type ActualityStep } from './actuality'
import { endAt, endIn, endOut, freeBeyond } from './ends'
import { pieceWords } from './pieceWords'

const WORDS = 'Well you see nobody told us a thing'
  .split(' ')
  .map((text, i): Word => ({ text, from: toFrames(0.5 * i + 0.1), to: toFrames(0.5 * i + 0.5) }))
const wordsOf = () => WORDS
const piece: Actuality = {
  kind: 'actuality',
  slug: '',
  speaker: '',
  role: '',
  story: null,
  spans: [{ tape: 'a', from: toFrames(1.55), to: toFrames(3.05), sound: 'tape' }],
  head: toFrames(0.05),
  tail: toFrames(0.05),
}
const free = (end: 'head' | 'tail') => ({ free: (now: Actuality) => freeBeyond(now, end, WORDS, [], toFrames(5)), barred: () => [] })
const done = (on: Actuality, steps: ActualityStep[]) => applyAll(actualityType, on, steps)
const said = (on: Actuality) =>
  pieceWords(on.spans, wordsOf)
    .map(({ text }) => text)
    .join(' ')

describe('an end of a piece', () => {
  it('goes in and out again by words, and never lets another word in', () => {
    expect(said(piece)).toBe('nobody told us')
    const inner = done(piece, endIn(piece, 'head', wordsOf, free('head')))
    expect(said(inner)).toBe('told us')
    const back = done(inner, endOut(inner, 'head', wordsOf, free('head')))
    expect(said(back)).toBe('nobody told us')
    const further = done(back, endOut(back, 'head', wordsOf, free('head')))
    expect(said(further)).toBe('see nobody told us')
    const later = done(further, endOut(further, 'tail', wordsOf, free('tail')))
    expect(said(later)).toBe('see nobody told us a')
    for (const one of [inner, back, further]) expect(one.head).toBe(toFrames(0.3))
    expect(later.tail).toBe(toFrames(0.3))
  })

  it('stops at its last word, and at the end of the tape', () => {
    let one = piece
    for (let i = 0; i < 2; i++) one = done(one, endIn(one, 'tail', wordsOf, free('tail')))
    expect(said(one)).toBe('nobody')
    expect(endIn(one, 'tail', wordsOf, free('tail'))).toEqual([])
    let all = piece
    for (let i = 0; i < 3; i++) all = done(all, endOut(all, 'head', wordsOf, free('head')))
    expect(said(all)).toBe('Well you see nobody told us')
    expect(endOut(all, 'head', wordsOf, free('head'))).toEqual([])
  })

  it('goes to where it is drawn, as near as words allow', () => {
    const at = (end: 'head' | 'tail', seconds: number, on = piece) => said(done(on, endAt(on, end, toFrames(seconds), wordsOf, free(end))))
    expect(at('head', 0.6)).toBe('told us')
    expect(at('head', 0.1)).toBe('nobody told us')
    expect(at('head', -0.4)).toBe('see nobody told us')
    expect(at('head', -30)).toBe('Well you see nobody told us')
    expect(at('tail', 0.9)).toBe('nobody told')
    expect(at('tail', 2.6)).toBe('nobody told us a thing')
    const wordless = done(
      piece,
      endAt(piece, 'head', toFrames(0.6), () => [], free('head')),
    )
    expect(wordless.spans[0].from).toBe(toFrames(2.15))
  })

  it('never goes out over what was said off the record', () => {
    const beyond = { ...free('tail'), barred: () => [{ from: toFrames(3.2), to: toFrames(3.4) }] }
    expect(endOut(piece, 'tail', wordsOf, beyond)).toEqual([])
    expect(endAt(piece, 'tail', toFrames(9), wordsOf, beyond)).toEqual([])
  })

  it('has free beside it what holds no word and is not barred', () => {
    expect(freeBeyond(piece, 'head', WORDS, [], toFrames(5))).toBe(toFrames(1.55) - toFrames(1.5))
    expect(freeBeyond(piece, 'tail', WORDS, [], toFrames(5))).toBe(toFrames(3.1) - toFrames(3.05))
    expect(freeBeyond(piece, 'tail', [], [{ from: toFrames(3.2), to: toFrames(4) }], toFrames(5))).toBe(toFrames(3.2) - toFrames(3.05))
  })
})
