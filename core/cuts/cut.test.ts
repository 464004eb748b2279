import { describe, expect, it } from 'vitest'
import { random } from '../sound/random'
import type { Word } from '../tape/words'
import { milliseconds, RATE, toFrames, type Frames } from '../time'
import { judgeCut, placeCut, soundAround, type CutOrder, type Heard } from './cut'
import { reachOf, speechIn, wordsAtEdges } from './edge'
import { pitchOf } from './jump'
import { stepAcross } from './place'
import { naturalGap, soundsFinal } from './rhythm'

const word = (text: string, from: number, to: number): Word => ({ text, from: toFrames(from), to: toFrames(to), checked: true })

/** One period of a sound with as many overtones as a voice has. */
const HUM = Float64Array.from({ length: 4800 }, (_, i) =>
  Array.from({ length: 49 }, (_x, k) => Math.sin((2 * Math.PI * (k + 1) * i) / 4800) / (k + 1)).reduce((sum, part) => sum + part, 0),
)

/** Words as hums of a pitch each, over the noise of a room. */
function said(words: readonly (Word & { hertz?: number; level?: number })[], seconds: number, seed = 3): Float32Array {
  const next = random(seed)
  const out = Float32Array.from({ length: toFrames(seconds) }, () => 0.0006 * (next() - 0.5))
  for (const { from, to, hertz = 120, level = 0.2 } of words)
    for (let i = from; i < to; i++) {
      const shape = Math.min(1, (i - from) / 480, (to - i) / 480)
      out[i] += level * shape * HUM[Math.floor(((hertz * i) / RATE) * HUM.length) % HUM.length]
    }
  return out
}

const heard = (words: readonly Word[], sound: Float32Array, asked: Frames): Heard => {
  const { from, to } = soundAround({ tape: 't', asked, low: 0, high: sound.length }, sound.length)
  return { words, sound: sound.subarray(from, to), start: from }
}
const order = (from: Frames, to: Frames, length: Frames): CutOrder => ({
  left: { tape: 't', asked: from, low: 0, high: length },
  right: { tape: 't', asked: to, low: 0, high: length },
})
const placed = (words: readonly Word[], sound: Float32Array, from: Frames, to: Frames) =>
  placeCut(order(from, to, sound.length), heard(words, sound, from), heard(words, sound, to))

const TALK = [
  word('we', 0.5, 0.7),
  word('waited', 0.75, 1.2),
  word('um', 1.6, 1.9),
  word('for', 2.4, 2.6),
  word('the', 2.65, 2.75),
  word('boat.', 2.8, 3.3),
  word('Nobody', 3.9, 4.3),
  word('came.', 4.35, 4.8),
]

describe('a cut', () => {
  it('falls into the pauses on either side, and leaves the gap that this voice makes', () => {
    const sound = said(TALK, 5.5)
    const cut = placed(TALK, sound, toFrames(1.58), toFrames(1.93))
    expect(cut.left).toBeGreaterThanOrEqual(TALK[1].to)
    expect(cut.left).toBeLessThanOrEqual(TALK[2].from)
    expect(cut.right).toBeGreaterThanOrEqual(TALK[2].to)
    expect(cut.right).toBeLessThanOrEqual(TALK[3].from)
    const gap = cut.left - TALK[1].to + TALK[3].from - cut.right
    expect(gap).toBeLessThan(milliseconds(120)) // words of a phrase follow on each other
    expect(cut.reasons).toContain('in the pause')
    expect(cut.lacks).toBe(0)
  })

  it('is placed for both of two voices, also where one of them goes on into what goes', () => {
    const kit = { ...word('mm', 1.1, 1.45), speaker: 'Kit' }
    const both = [...TALK.slice(0, 2), kit, ...TALK.slice(2)]
    const sound = said(
      both.map((one) => (one === kit ? { ...one, hertz: 190, level: 0.1 } : one)),
      5.5,
    )
    const cut = placed(both, sound, toFrames(1.3), toFrames(1.95))
    // Piet's word is over at 1.2 s, Kit's a quarter of a second later
    expect(cut.left).toBeGreaterThanOrEqual(kit.to)
    expect(cut.left).toBeLessThanOrEqual(TALK[2].from)
    expect(cut.right).toBeLessThanOrEqual(TALK[3].from)
  })

  it('never takes from a word that stays, wherever a hand put its edges, and leaves no step', () => {
    const next = random(8)
    for (let i = 0; i < 25; i++) {
      const sound = said(
        TALK.map((one) => ({ ...one, hertz: 90 + 150 * next() })),
        5.5,
        i,
      )
      const from = toFrames(1.35 + 0.35 * next())
      const to = toFrames(1.85 + 0.4 * next())
      const cut = placed(TALK, sound, from, to)
      expect(cut.left).toBeGreaterThanOrEqual(TALK[1].to)
      expect(cut.right).toBeLessThanOrEqual(TALK[3].from)
      expect(cut.left).toBeLessThanOrEqual(TALK[2].from)
      expect(cut.right).toBeGreaterThanOrEqual(TALK[2].to)
      const edge = { sound, start: 0, asked: from, low: 0, high: sound.length, kept: null, gone: null }
      expect(stepAcross(edge, edge, cut.left, cut.right, cut.join.fade, cut.join.shape)).toBeLessThanOrEqual(1)
    }
  })

  it('through a voice goes on with the wave, at equal gain', () => {
    const hum = [word('one', 0.4, 3)]
    const cut = placed(hum, said(hum, 3.4), toFrames(1), toFrames(1.5034))
    expect(cut.join.shape).toBe('gain')
    // a whole number of periods went
    const periods = ((cut.right - cut.left) / RATE) * 120
    expect(Math.abs(periods - Math.round(periods))).toBeLessThan(0.08)
    expect(cut.heard).toBeLessThan(0.35)
  })

  it('keeps a breath with the word that it leads to', () => {
    const sound = said(TALK, 5.5)
    const next = random(4)
    let last = 0
    for (let i = toFrames(2.05); i < toFrames(2.33); i++) {
      const white = next() - 0.5
      sound[i] += 0.03 * Math.sin((Math.PI * (i - toFrames(2.05))) / toFrames(0.28)) * (white - 0.6 * last)
      last = white
    }
    const cut = placed(TALK, sound, toFrames(1.58), toFrames(2.2))
    expect(cut.right).toBeLessThanOrEqual(toFrames(2.1))
    expect(cut.reasons).toContain('the breath stays with its word')
  })

  it('asks for room tone where a pause is missing between sentences', () => {
    const words = [
      word('came', 0.5, 0.9),
      word('home.', 0.95, 1.4),
      word('And', 1.44, 1.7),
      word('so', 1.75, 2),
      word('on', 2.05, 2.3),
      word('Nobody', 2.36, 2.8),
      word('asked.', 2.9, 3.3),
      word('Never.', 3.9, 4.3),
      word('Good.', 4.9, 5.2),
      word('Right.', 5.8, 6.1),
      word('Yes.', 6.7, 7),
    ]
    const cut = placed(words, said(words, 7.5), toFrames(1.43), toFrames(2.33))
    expect(cut.lacks).toBeGreaterThan(toFrames(0.3))
    expect(cut.lacks).toBeLessThan(toFrames(0.62))
  })

  it('keeps to the given edges’ own place where a part of a pause goes', () => {
    const cut = placed(TALK, said(TALK, 5.5), toFrames(3.4), toFrames(3.7))
    expect(Math.abs(cut.right - cut.left - toFrames(0.3))).toBeLessThan(milliseconds(40))
  })

  it('protects speech as it is heard where there are no words', () => {
    const sound = said(TALK, 5.5)
    const cut = placed([], sound, toFrames(1.5), toFrames(2.0))
    expect(cut.left).toBeGreaterThanOrEqual(TALK[1].to - milliseconds(20))
    expect(cut.right).toBeLessThanOrEqual(TALK[3].from + milliseconds(20))
  })
})

describe('a prediction', () => {
  it('hears a voice that goes on at another pitch, and says so', () => {
    const words = [
      { ...word('low', 0.5, 2), hertz: 100 },
      { ...word('high', 2.5, 4), hertz: 160 },
    ]
    const sound = said(words, 4.5)
    const judge = (from: number, to: number) =>
      judgeCut(order(toFrames(from), toFrames(to), sound.length), heard(words, sound, toFrames(from)), heard(words, sound, toFrames(to)))
    const bad = judge(1.2, 3.2)
    expect(bad.heard).toBeGreaterThan(0.5)
    expect(bad.why).toBe('pitch falls, then starts high')
    expect(judge(2.1, 2.4).heard).toBeLessThan(bad.heard)
  })

  it('measures pitch', () => {
    const tone = (hertz: number) =>
      Float32Array.from(
        { length: milliseconds(36) },
        (_, i) => 0.2 * Math.sin((2 * Math.PI * hertz * i) / RATE) + 0.1 * Math.sin((4 * Math.PI * hertz * i) / RATE),
      )
    for (const hertz of [85, 120, 210, 330]) expect(Math.abs(12 * Math.log2(pitchOf(tone(hertz)) / hertz))).toBeLessThan(0.5)
    const next = random(2)
    expect(pitchOf(Float32Array.from({ length: milliseconds(36) }, () => next() - 0.5))).toBe(0)
    expect(pitchOf(new Float32Array(milliseconds(36)))).toBe(0)
  })
})

describe('edges', () => {
  it('know which words go: those of which more than half was chosen', () => {
    const found = wordsAtEdges(TALK, { from: toFrames(0.85), to: toFrames(1.8) })
    expect(found.left).toEqual({ kept: TALK[0].to, gone: TALK[1].from })
    expect(found.right).toEqual({ kept: TALK[3].from, gone: TALK[2].to })
  })

  it('stay within what a piece allows', () => {
    const edge = { sound: new Float32Array(0), start: 0, asked: 5000, low: 4900, high: 5050, kept: 2000, gone: 9000 }
    expect(reachOf(edge, 'left')).toEqual({ from: 4900, to: 5050 })
    expect(reachOf({ ...edge, kept: 9000, gone: 2000 }, 'right')).toEqual({ from: 4900, to: 5050 })
  })

  it('find speech by its level', () => {
    const found = speechIn(said(TALK, 5.5), 1000)
    expect(found[0].from).toBeGreaterThan(1000 + TALK[0].from - milliseconds(20))
    expect(Math.abs(found[0].to - 1000 - TALK[1].to)).toBeLessThan(milliseconds(25))
  })
})

describe('the gap of a speaker', () => {
  const silent = { sound: new Float32Array(0), start: 0 }
  const gapOf = (words: readonly Word[], left: Word, right: Word) => naturalGap(left, right, { words, ...silent }, { words, ...silent })
  it('is their own, by what stands before it', () => {
    const words = Array.from({ length: 12 }, (_, i): Word => ({
      text: i % 2 ? 'end.' : 'word',
      from: i * 48_000,
      to: i * 48_000 + (i % 2 ? 20_000 : 47_000),
    }))
    expect(gapOf(words, words[1], words[8]).natural).toBe(28_000)
    expect(gapOf(words, words[2], words[9]).natural).toBe(1000)
    // of somebody who is hardly heard, what is usual
    expect(gapOf(words.slice(0, 3), words[1], words[2]).natural).toBe(milliseconds(380))
  })

  // sentences of four words without a full stop anywhere, some 0.6 s apart
  const bare = Array.from({ length: 40 }, (_, i): Word => {
    const from = toFrames(Math.floor(i / 4) * 2.2 + (i % 4) * 0.4)
    return { text: `word${i}`, from, to: from + toFrames(0.38) }
  })
  const pause = bare[4].from - bare[3].to
  it('is told by the pauses where nobody wrote full stops', () => {
    const between = gapOf(bare, bare[7], bare[16])
    expect(between.natural).toBeGreaterThan(0.8 * pause)
    expect(between.least).toBeGreaterThanOrEqual(0.6 * pause)
    const running = gapOf(bare, bare[9], bare[18])
    expect(running.natural).toBeLessThan(milliseconds(80))
    expect(running.most).toBeLessThanOrEqual(milliseconds(150))
  })
  it('is that of running speech where only a filler went, whatever it waited', () => {
    const um = { text: 'um', from: bare[7].to + milliseconds(300), to: bare[8].from - milliseconds(100) }
    const words = [...bare.slice(0, 8), um, ...bare.slice(8)]
    expect(gapOf(words, bare[7], bare[8]).most).toBeLessThanOrEqual(milliseconds(150))
  })
})

it('a voice that falls and draws out its last syllable has ended', () => {
  const words = Array.from({ length: 6 }, (_, i) => word('wordy', i, i + 0.4))
  const tone = (from: number, to: number) => {
    const sound = new Float32Array(toFrames(7))
    let phase = 0
    const last = words[5]
    for (let i = last.from; i < toFrames(5.8); i++) {
      const hertz = from + ((to - from) * (i - last.from)) / (toFrames(5.8) - last.from)
      phase += hertz / RATE
      sound[i] = 0.2 * Math.sin(2 * Math.PI * phase) + 0.1 * Math.sin(4 * Math.PI * phase)
    }
    return sound
  }
  const final = { ...words[5], to: toFrames(5.8) }
  const at = (sound: Float32Array, one: Word) => soundsFinal(one, { words: [...words.slice(0, 5), one], sound, start: 0 })
  expect(at(tone(160, 100), final)).toBe(true)
  expect(at(tone(120, 150), final)).toBe(false)
  expect(at(tone(160, 100), words[5])).toBe(false)
})
