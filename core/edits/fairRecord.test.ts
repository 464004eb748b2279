import { describe, expect, it } from 'vitest'
import type { Word } from '../tape/words'
import type { Span } from './editList'
import { fairRecord, warningsOf } from './fairRecord'

const TEXT = 'We would not have signed it if they asked us. Who told you? Nobody told us, in eleven years.'
const WORDS = TEXT.split(' ').map((text, i): Word => ({ text, from: i * 1000, to: i * 1000 + 900, speaker: i >= 10 && i < 13 ? 'Reporter' : 'Piet' }))
const span = (from: number, to: number, more: Partial<Span> = {}): Span => ({ tape: 'a', from: from * 1000, to: to * 1000, sound: 'tape', ...more })
const join = { fade: 384, shape: 'power' as const, origin: 'hand' as const, heard: false }
const record = (spans: Span[], off: { from: number; to: number }[] = []) => fairRecord({ spans }, () => WORDS, () => off)

describe('the fair-edit record', () => {
  it('strikes through what went, in its place, and says what of the meaning may have gone with it', () => {
    const { parts, joins, unheard } = record([span(0, 2), span(3, 6, { join }), span(10, 19, { join: { ...join, heard: true } })])
    expect(parts.map((part) => (part.kind === 'moved' ? '' : part.text))).toEqual(['We would', 'not', 'have signed it', 'if they asked us.', 'Who told you? Nobody told us, in eleven years.'])
    expect(parts.flatMap((part) => (part.kind === 'out' ? [part.warnings] : []))).toEqual([['negation'], ['condition', 'attribution']])
    expect([joins, unheard]).toEqual([2, 1])
  })

  it('says where two answers were joined', () => {
    const [, gone] = record([span(0, 10), span(13, 16, { join })]).parts
    expect(gone).toMatchObject({ kind: 'out', text: 'Who told you?', warnings: ['question', 'attribution', 'answers joined'] })
  })

  it('tells that something is off the record, and never its words', () => {
    const { parts, off } = record([span(0, 10), span(16, 19, { join })], [{ from: 13_500, to: 14_500 }])
    expect(parts[1]).toMatchObject({ kind: 'out', text: '', off: true, warnings: [] })
    expect(off).toBe(1)
  })

  it('notes what is held, moved, from elsewhere, and much louder or softer', () => {
    const { parts } = record([span(13, 16), span(16, 17, { sound: 'tone', join }), span(0, 10, { join, level: [{ at: 500, dB: -9 }] }), { tape: 'b', from: 0, to: 1000, sound: 'tape', join }])
    expect(parts.map(({ kind }) => kind)).toEqual(['said', 'out', 'moved', 'said', 'moved', 'said'])
    expect(parts[1]).toMatchObject({ how: 'held', text: 'in' })
    expect(parts[3]).toMatchObject({ level: -9 })
    expect(parts[4]).toMatchObject({ otherTape: true })
  })

  it('counts the gain of the whole with the level of a place', () => {
    const level = (gain: number) => fairRecord({ spans: [span(0, 10, { level: [{ at: 500, dB: -4 }] })], gain }, () => WORDS, () => []).parts.map((part) => part.kind === 'said' && part.level)
    expect([level(0), level(-3), level(8)]).toEqual([[null], [-7], [8]])
  })

  it('measures from the first word to the last, on tape and in the piece', () => {
    const { onTape, inPiece } = record([span(0, 2), span(13, 16, { join })])
    expect(onTape).toBe(15_900)
    expect(inPiece).toBe(4900)
  })
})

it('knows what a number, a negation, a condition look like, and what does not', () => {
  const of = (text: string) => warningsOf(text.split(' ').map((one): Word => ({ text: one, from: 0, to: 1 })), {})
  expect(of('didn’t')).toEqual(['negation'])
  expect(of('seventy passengers')).toEqual(['number'])
  expect(of('at 11:40')).toEqual(['number'])
  expect(of('unless it rains')).toEqual(['condition'])
  expect(of('um the harbour wall')).toEqual([])
})
