import { describe, expect, it } from 'vitest'
import type { Word } from '../tape/words'
import { applyAll } from '../steps/document'
import { actualityType, type Actuality, type ActualityStep } from './actuality'
import { holdTime, takeOut } from './acts'
import { bringBack } from './bringBack'
import { plainJoin, type Span } from './editList'
import { fairRecord } from './fairRecord'
import { changePause } from './gaps'
import { nicks } from './gone'
import { shapeLevel } from './levelLine'
import { toggleMute } from './mute'
import { movePassage } from './order'
import { layPatch } from './patch'
import { warningsOf } from './warnings'

const TEXT = 'We would not have signed it if they asked us. Who told you? Nobody told us, in eleven years.'
const WORDS = TEXT.split(' ').map((text, i): Word => ({
  text,
  from: i * 1000,
  to: i * 1000 + 900,
  speaker: i >= 10 && i < 13 ? 'Reporter' : 'Piet',
}))
const span = (from: number, to: number, more: Partial<Span> = {}): Span => ({
  tape: 'a',
  from: from * 1000,
  to: to * 1000,
  sound: 'tape',
  ...more,
})
const join = { fade: 384, shape: 'power' as const, origin: 'hand' as const, heard: false }
const record = (spans: Span[], off: { from: number; to: number }[] = []) =>
  fairRecord({ spans }, { wordsOf: () => WORDS, offOf: () => off })

describe('the fair-edit record', () => {
  it('strikes through what went, in its place, and says what of the meaning may have gone with it', () => {
    const { parts, joins, unheard } = record([span(0, 2), span(3, 6, { join }), span(10, 19, { join: { ...join, heard: true } })])
    expect(parts.map((part) => ('text' in part ? part.text : ''))).toEqual([
      'We would',
      'not',
      'have signed it',
      'if they asked us.',
      'Who told you? Nobody told us, in eleven years.',
    ])
    expect(parts.flatMap((part) => (part.kind === 'out' ? [part.warnings] : []))).toEqual([
      [{ kind: 'negation', words: ['not'] }],
      [
        { kind: 'condition', words: ['if'] },
        { kind: 'attribution', words: ['asked'] },
      ],
    ])
    expect([joins, unheard]).toEqual([2, 1])
  })

  it('says where two answers were joined', () => {
    const [, gone] = record([span(0, 10), span(13, 16, { join })]).parts
    expect(gone).toMatchObject({
      kind: 'out',
      text: 'Who told you?',
      warnings: [
        { kind: 'question', words: ['you?'] },
        { kind: 'answers joined', words: [] },
      ],
    })
  })

  it('tells that something is off the record, and never its words', () => {
    const { parts, off } = record([span(0, 10), span(16, 19, { join })], [{ from: 13_500, to: 14_500 }])
    expect(parts[1]).toMatchObject({ kind: 'out', text: '', off: true, warnings: [] })
    expect(off).toBe(1)
  })

  it('notes what is held, moved, from elsewhere, and much louder or softer', () => {
    const { parts } = record([
      span(13, 16),
      span(16, 17, { sound: 'tone', join }),
      span(0, 10, { join, level: [{ at: 500, dB: -9 }] }),
      { tape: 'b', from: 0, to: 1000, sound: 'tape', join },
    ])
    expect(parts.map(({ kind }) => kind)).toEqual(['said', 'out', 'moved', 'said', 'moved', 'said'])
    expect(parts[1]).toMatchObject({ how: 'held', text: 'in' })
    expect(parts[3]).toMatchObject({ level: -9 })
    expect(parts[4]).toMatchObject({ otherTape: true })
  })

  it('counts the gain of the whole with the level of a place', () => {
    const level = (gain: number) =>
      fairRecord({ spans: [span(0, 10, { level: [{ at: 500, dB: -4 }] })], gain }, { wordsOf: () => WORDS, offOf: () => [] }).parts.map(
        (part) => part.kind === 'said' && part.level,
      )
    expect([level(0), level(-3), level(8)]).toEqual([[null], [-7], [8]])
  })

  it('measures from the first word to the last, on tape and in the piece', () => {
    const { onTape, inPiece } = record([span(0, 2), span(13, 16, { join })])
    expect(onTape).toBe(15_900)
    expect(inPiece).toBe(4900)
  })
})

describe('what is warned of', () => {
  const of = (text: string, left = '', language = 'en') =>
    warningsOf(
      text.split(' ').map((one): Word => ({ text: one, from: 0, to: 1 })),
      left.split(' ').map((one): Word => ({ text: one, from: 0, to: 1 })),
      {},
      language,
    ).map(({ kind, words }) => `${kind}: ${words.join(' ')}`)
  it('names the words that went', () => {
    expect(of('they didn’t')).toEqual(['negation: didn’t'])
    expect(of('seventy passengers')).toEqual(['number: seventy'])
    expect(of('at 11:40')).toEqual(['number: 11:40'])
    expect(of('unless it rains')).toEqual(['condition: unless'])
    expect(of('um the harbour wall')).toEqual([])
  })
  it('is silent where the same word still stands in the sentence', () => {
    expect(of('not, no', 'it is not so')).toEqual(['negation: no'])
    expect(of('not', 'it is not so')).toEqual([])
  })
  it('goes by the language of the tape, and a question is one in any', () => {
    expect(of('niemand hat uns gefragt', '', 'de')).toEqual(['negation: niemand'])
    expect(of('personne ne savait', '', 'fr')).toEqual(['negation: personne ne'])
    expect(of('ingen sa noe?', '', 'no')).toEqual(['question: noe?'])
  })
})

describe('pauses, passages and ends', () => {
  const piece: Actuality = { kind: 'actuality', slug: '', speaker: '', role: '', story: null, spans: [span(0, 19)], head: 0, tail: 0 }
  const done = (steps: ActualityStep[], on = piece) => applyAll(actualityType, on, steps)
  const outs = (on: Actuality) => fairRecord(on, { wordsOf: () => WORDS, offOf: () => [] }).parts.filter((part) => part.kind === 'out')
  it('a pause that was made longer took nothing out', () => {
    const longer = done(changePause(piece, { from: 9900, to: 10_000 }, 4000))
    expect(outs(longer)).toEqual([])
    expect(nicks(longer)).toEqual([])
    expect(fairRecord(longer, { wordsOf: () => WORDS, offOf: () => [] }).parts.map(({ kind }) => kind)).toEqual(['said', 'added', 'said'])
  })
  it('a passage that was moved was not taken out', () => {
    const moved = done(movePassage(piece, { from: 2000, to: 6000 }, 13_000))
    expect(outs(moved)).toEqual([])
    expect(nicks(moved)).toEqual([])
  })
  it('words cut off the ends are listed, and come back with the handles that were there', () => {
    const handled = { ...piece, head: 500, tail: 300 }
    const cut = done(takeOut(handled, { from: 0, to: 3000 }), handled)
    const both = done(takeOut(cut, { from: 13_000, to: 16_000 }), cut)
    expect(outs(both).map(({ how, text }) => [how, text])).toEqual([
      ['head', 'We would not'],
      ['tail', 'in eleven years.'],
    ])
    const [first, last] = nicks(both)
    const back = done(bringBack(both, last), both)
    expect(done(bringBack(back, first), back)).toMatchObject({ spans: handled.spans, head: 500, tail: 300 })
  })
  it('a passage comes back with its level, its mutes, its patch and its cuts', () => {
    const shaped = [...shapeLevel(piece, { from: 4000, to: 6000 }, () => -9)]
    let rich = done(shaped)
    rich = done(toggleMute(rich, { from: 6500, to: 7500 }), rich)
    rich = done(
      layPatch(rich, { from: 8000, to: 8900 }, { tape: 'a', from: 30_000, to: 31_200 }, { left: plainJoin(), right: plainJoin() }),
      rich,
    )
    rich = done(takeOut(rich, { from: 4500, to: 4800 }), rich)
    for (const out of [takeOut, holdTime]) {
      const cut = done(out(rich, { from: 3000, to: 10_000 }), rich)
      const held = nicks(cut)
      // the cut that was there stays one
      const back = held
        .filter(({ how }) => (out === holdTime ? how === 'held' : true))
        .reverse()
        .reduce(
          (now, nick) => done(bringBack(now, nicks(now).find(({ at, from }) => at === nick.at && from === nick.from) ?? nick), now),
          cut,
        )
      const bare = (list: readonly Span[]) => list.map(({ join: _, ...rest }) => rest)
      expect(bare(back.spans)).toEqual(bare(rich.spans))
    }
  })
})
