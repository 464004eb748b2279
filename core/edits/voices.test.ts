import { describe, expect, it } from 'vitest'
import { piecePlan } from '../page/plan'
import { onlySide, othersOf, type TapeFacts } from '../render/plan'
import { renderAll } from '../render/render'
import { applyAll } from '../steps/document'
import type { Side } from '../tape/tape'
import type { Word } from '../tape/words'
import { actualityType, clipLength, type Actuality } from './actuality'
import { edits } from './editList'
import { fairRecord } from './fairRecord'
import { pieceWords } from './pieceWords'
import { asRecorded } from './asRecorded'
import { applyAndInvert } from '../steps/document'
import { lesserSide, levelOfSide, levelSide, sideLevelsOff, sideMutedIn, slipSide, toggleSideMute, unmuteSides } from './voices'

const SIDES: Side[] = [
  { name: 'Piet', channels: [0] },
  { name: 'Kit', channels: [1] },
]
const whole: Actuality = {
  kind: 'actuality',
  slug: '',
  speaker: '',
  role: '',
  story: null,
  spans: [{ tape: 'a', from: 0, to: 96_000, sound: 'tape' }],
  head: 0,
  tail: 0,
  sides: { a: SIDES },
}
const WORDS: Word[] = [
  { text: 'nobody', from: 1000, to: 20_000, speaker: 'Piet' },
  { text: 'mm', from: 12_000, to: 16_000, speaker: 'Kit' },
  { text: 'told', from: 24_000, to: 40_000, speaker: 'Piet' },
  { text: 'who', from: 36_000, to: 48_000, speaker: 'Kit' },
  { text: 'us', from: 60_000, to: 70_000, speaker: 'Piet' },
]
/** Piet is a slow rise, Kit a level that is there while he speaks. */
const value = (channel: number, frame: number) =>
  channel === 0 ? frame / 200_000 : WORDS.some(({ speaker, from, to }) => speaker === 'Kit' && frame >= from && frame < to) ? 0.25 : 0
const read = (_: string, channel: number, from: number, to: number) =>
  Float32Array.from({ length: to - from }, (__, i) => value(channel, from + i))
const facts = (id: string): TapeFacts => ({ id, frames: 96_000, sides: SIDES, tone: { sound: id, quiet: [] } })
const heard = (piece: Actuality) => renderAll(piecePlan(piece, facts), read)[0]
const said = (piece: Actuality) =>
  pieceWords(piece.spans, () => WORDS, piece.sides)
    .map(({ text }) => text)
    .join(' ')
const done = (piece: Actuality, steps: ReturnType<typeof toggleSideMute>) => applyAll(actualityType, piece, steps)

it('who says less of a stretch is the one that is meant', () => {
  expect(lesserSide(SIDES, WORDS, { from: 10_000, to: 22_000 })).toBe(1)
  expect(lesserSide(SIDES, WORDS, { from: 55_000, to: 80_000 })).toBe(0)
  expect(lesserSide(SIDES, WORDS, { from: 80_000, to: 90_000 })).toBe(null)
})

describe('muting one side', () => {
  const mm = { from: 11_500, to: 16_500 }
  const quiet = done(whole, toggleSideMute(whole, mm, 1))
  it('takes one voice away and leaves time and the other as they are', () => {
    expect(clipLength(quiet)).toBe(96_000)
    expect(edits(quiet.spans)).toEqual([])
    expect(heard(whole)[14_000]).toBeCloseTo(0.25 + 0.07, 5)
    expect(heard(quiet)[14_000]).toBeCloseTo(0.07, 5)
    expect(heard(quiet)[40_000]).toBeCloseTo(0.45, 5)
    expect(said(quiet)).toBe('nobody told who us')
  })
  it('is on the record', () => {
    const [part] = fairRecord(quiet, { wordsOf: () => WORDS, offOf: () => [] }).parts
    expect(part).toMatchObject({ kind: 'said', text: 'nobody told who us', muted: 'mm' })
  })
  it('is taken back', () => {
    expect(sideMutedIn(quiet, mm, 1)).toBe(true)
    expect(sideMutedIn(quiet, mm, 0)).toBe(false)
    expect(done(quiet, toggleSideMute(quiet, mm, 1))).toEqual(whole)
    expect(done(quiet, unmuteSides(quiet, { from: 0, to: 96_000 }))).toEqual(whole)
    expect(done(quiet, asRecorded(quiet, { from: 10_000, to: 20_000 }))).toEqual(whole)
    expect(unmuteSides(whole, mm)).toEqual([])
  })
})

it('one is heard alone, and the file has both', () => {
  const plan = piecePlan(whole, facts)
  const alone = (side: number) => renderAll(onlySide(plan, facts('a'), side), read)[0]
  expect(alone(1)[14_000]).toBeCloseTo(0.25, 5)
  expect(alone(1)[90_000]).toBe(0)
  expect(alone(0)[14_000]).toBeCloseTo(0.07, 5)
  expect(renderAll(othersOf(plan, facts('a')), read)[0]).toEqual(alone(1))
  expect(heard(whole)[14_000]).toBeCloseTo(0.32, 5)
})

describe('the level of one side', () => {
  const mm = { from: 11_500, to: 16_500 }
  const softer = done(
    whole,
    levelSide(whole, mm, 1, (dB) => dB - 6),
  )

  it('changes that side there, and nothing else', () => {
    expect(clipLength(softer)).toBe(96_000)
    // nobody would call that an edit
    expect(edits(softer.spans)).toEqual([])
    expect(heard(softer)[14_000]).toBeCloseTo(0.25 * 10 ** (-6 / 20) + 0.07, 4)
    for (const at of [5000, 30_000, 40_000]) expect(heard(softer)[at]).toBeCloseTo(heard(whole)[at], 6)
    expect(said(softer)).toBe(said(whole))
  })

  it('eases in and out: nowhere is it louder than before or softer than told', () => {
    const [now, before] = [heard(softer), heard(whole)]
    const lowest = 10 ** (-6 / 20)
    // what Kit says, once the slow rise that is Piet is taken away
    const share = Array.from(before, (sample, at) => (sample - at / 200_000 > 0.2 ? (now[at] - at / 200_000) / (sample - at / 200_000) : 1))
    expect(Math.max(...share)).toBeLessThan(1.001)
    expect(Math.min(...share)).toBeGreaterThan(lowest - 0.001)
  })

  it('adds up, is told, comes off, and is taken back', () => {
    const further = done(
      softer,
      levelSide(softer, { from: 12_000, to: 14_000 }, 1, (dB) => dB - 3),
    )
    expect([
      levelOfSide(further, { from: 12_500, to: 13_000 }, 1),
      levelOfSide(further, { from: 15_000, to: 16_000 }, 1),
      levelOfSide(further, mm, 0),
    ]).toEqual([-9, -6, 0])
    expect(done(further, sideLevelsOff(further, { from: 0, to: 96_000 })).spans).toEqual(whole.spans)
    const { document, inverse } = applyAndInvert(
      actualityType,
      softer,
      levelSide(softer, { from: 0, to: 50_000 }, 1, () => 4),
    )
    expect(applyAll(actualityType, document, inverse)).toEqual(softer)
    const loud = fairRecord(
      done(
        whole,
        levelSide(whole, mm, 1, () => -20),
      ),
      { wordsOf: () => WORDS, offOf: () => [] },
    )
    expect(loud.parts.some((part) => part.kind === 'said' && part.level === -20)).toBe(true)
  })

  it('stays within what a level can be', () => {
    expect(
      levelOfSide(
        done(
          whole,
          levelSide(whole, mm, 1, () => -400),
        ),
        mm,
        1,
      ),
    ).toBe(-60)
    expect(
      levelOfSide(
        done(
          whole,
          levelSide(whole, mm, 1, () => 400),
        ),
        mm,
        1,
      ),
    ).toBe(24)
  })
})

describe('slipping', () => {
  // Kit speaks into what Piet says, and is moved behind it
  const apart = done(whole, slipSide(whole, { from: 30_000, to: 58_000 }, 1, 6000))
  it('moves one voice and not the other, and takes no time', () => {
    expect(clipLength(apart)).toBe(96_000)
    const [then, now] = [heard(whole), heard(apart)]
    expect(then[38_000]).toBeCloseTo(0.25 + 0.19, 5)
    expect(now[38_000]).toBeCloseTo(0.19, 5)
    expect(now[53_000]).toBeCloseTo(0.25 + 0.265, 5)
    for (const at of [10_000, 25_000, 29_900, 30_100, 57_900, 58_100, 80_000]) expect(now[at]).toBeCloseTo(then[at], 5)
  })
  it('has the words stand where they are heard', () => {
    const words = pieceWords(apart.spans, () => WORDS, apart.sides)
    expect(words.map(({ text, at }) => [text, at])).toEqual([
      ['nobody', 1000],
      ['mm', 12_000],
      ['told', 24_000],
      ['who', 42_000],
      ['us', 60_000],
    ])
  })
  it('is on the record, and taken back', () => {
    expect(fairRecord(apart, { wordsOf: () => WORDS, offOf: () => [] }).parts).toMatchObject([
      { slips: [] },
      { slips: [{ side: 'Kit', by: 6000 }] },
      { slips: [] },
    ])
    // by any part of it
    expect(done(apart, slipSide(apart, { from: 42_000, to: 54_000 }, 1, -6000)).spans.map(({ slip }) => slip)).toEqual([undefined])
  })
})
