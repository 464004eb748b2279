import { describe, expect, it } from 'vitest'
import { random } from '../sound/random'
import { milliseconds, RATE, type Stretch } from '../time'
import { jumpBetween, pitchOf } from './jump'
import { jumpAt, predicted, usualIn } from './predict'

/** Something with a voice's pitch: a pulse a period through one resonance. */
function voiced(hertz: number, frames: number, gain = 0.2, resonance = 700): Float32Array {
  const out = new Float32Array(frames)
  const [back, further] = [2 * 0.97 * Math.cos((2 * Math.PI * resonance) / RATE), 0.97 ** 2]
  let [one, two, phase] = [0, 0, 0]
  for (let i = 0; i < frames; i++) {
    phase += hertz / RATE
    const pulse = phase >= 1 ? 1 : 0
    phase %= 1
    const now = pulse + back * one - further * two
    two = one
    one = now
    out[i] = gain * now
  }
  return out
}

const LONG = milliseconds(100)
const NOTHING = { level: 0, spectrum: 0, pitch: 0 }
const USUAL = { level: { mean: 5, spread: 5 }, spectrum: { mean: 5.5, spread: 2 }, pitch: { mean: 1.2, spread: 1.2 } }

describe('the pitch of a voice', () => {
  it.each([85, 120, 210, 330])('is found at %i Hz', (hertz) =>
    expect(Math.abs(pitchOf(voiced(hertz, milliseconds(60))) - hertz)).toBeLessThan(hertz * 0.03),
  )

  it('is none in noise and in silence', () => {
    const next = random(4)
    expect(pitchOf(Float32Array.from({ length: milliseconds(60) }, () => 0.3 * (next() - 0.5)))).toBe(0)
    expect(pitchOf(new Float32Array(milliseconds(60)))).toBe(0)
  })
})

describe('the jump at a join', () => {
  it('is nothing where a voice goes on', () => {
    const voice = voiced(120, 2 * LONG)
    const jump = jumpBetween(voice.subarray(0, LONG), voice.subarray(LONG))
    // a look of 20 ms holds two periods or three
    expect(Math.abs(jump.level)).toBeLessThan(2)
    expect(Math.abs(jump.pitch!)).toBeLessThan(0.3)
    expect(jump.spectrum).toBeLessThan(2)
  })

  it('tells by how much it grows louder, and by how many semitones higher', () => {
    const jump = jumpBetween(voiced(120, LONG, 0.05), voiced(180, LONG, 0.2))
    expect(jump.level).toBeGreaterThan(10)
    expect(jump.level).toBeLessThan(16)
    expect(jump.pitch).toBeCloseTo(12 * Math.log2(180 / 120), 0)
  })

  it('tells another colour from another level', () => {
    const same = jumpBetween(voiced(120, LONG, 0.05), voiced(120, LONG, 0.4))
    const other = jumpBetween(voiced(120, LONG, 0.2, 700), voiced(120, LONG, 0.2, 2500))
    expect(other.spectrum).toBeGreaterThan(same.spectrum + 4)
  })

  it('is looked for where each side was cut, silent beyond what is there', () => {
    const edge = (sound: Float32Array) => ({
      sound,
      start: 1000,
      asked: 1000,
      low: 1000,
      high: 1000 + sound.length,
      kept: null,
      gone: null,
    })
    const voice = voiced(120, 4 * LONG)
    expect(jumpAt(edge(voice), edge(voice), 1000 + 2 * LONG, 1000 + 2 * LONG).level).toBeCloseTo(
      jumpBetween(voice.subarray(0, 2 * LONG), voice.subarray(2 * LONG)).level,
      3,
    )
    expect(jumpAt(edge(voice), edge(voice), 1000 + 2 * LONG, 1000 + 9 * LONG).level).toBeLessThan(-30)
  })
})

describe('the prediction', () => {
  it('says nothing of a join like those the voice makes itself', () => {
    expect(predicted({ level: 2, spectrum: 5, pitch: 0.5 }, USUAL, 4800, 5000)).toMatchObject({ why: '' })
    expect(predicted({ level: 2, spectrum: 5, pitch: 0.5 }, USUAL, 4800, 5000).heard).toBeLessThan(0.35)
  })

  it.each([
    ['louder after it', { ...NOTHING, level: 30 }, null],
    ['softer after it', { ...NOTHING, level: -30 }, null],
    ['the sound changes colour', { ...NOTHING, spectrum: 14 }, null],
    ['pitch falls, then starts high', { ...NOTHING, pitch: 9 }, null],
    ['pitch drops', { ...NOTHING, pitch: -9 }, null],
    ['a long gap for this voice', NOTHING, [50_000, 3000] as const],
    ['the next word comes too soon', NOTHING, [0, 30_000] as const],
  ])('says what would be heard: %s', (why, jump, rhythm) => {
    const found = predicted(jump, USUAL, rhythm?.[0] ?? null, rhythm?.[1] ?? null)
    expect(found.why).toBe(why)
    expect(found.heard).toBeGreaterThan(0.35)
  })

  it('grows with the jump', () => {
    const heard = [0, 6, 12, 18, 24].map((level) => predicted({ level, spectrum: 6, pitch: 1 }, USUAL, null, null).heard)
    expect(heard).toEqual([...heard].sort((a, b) => a - b))
    expect(heard[4]).toBeGreaterThan(heard[0] + 0.2)
  })
})

describe('what is usual for a voice', () => {
  const WORD = milliseconds(200)
  /** Words that follow on one another, every second one much louder. */
  const lively = new Float32Array(12 * WORD)
  const words = Array.from({ length: 12 }, (_, i): Stretch => ({ from: i * WORD, to: (i + 1) * WORD }))
  words.forEach(({ from }, i) => lively.set(voiced(120, WORD, i % 2 ? 0.4 : 0.03), from))

  it('is learnt from where its words meet: a jump that it makes itself is not audible', () => {
    const usual = usualIn(lively, 0, words, 6 * WORD)
    expect(usual.level.mean).toBeGreaterThan(15)
    const jump = { level: 20, spectrum: usual.spectrum.mean, pitch: 0 }
    expect(predicted(jump, usual, null, null).why).toBe('')
    expect(predicted(jump, { ...usual, level: USUAL.level }, null, null).why).toBe('louder after it')
  })

  it('is what is common where too few words meet, or pauses lie between them', () => {
    const few = usualIn(lively, 0, words.slice(0, 4), 0)
    expect(few).toEqual(
      usualIn(
        lively,
        0,
        words.map(({ from, to }) => ({ from, to: to - milliseconds(90) })),
        0,
      ),
    )
    expect(few.level.mean).toBe(5)
  })
})
