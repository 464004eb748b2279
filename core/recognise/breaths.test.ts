import { describe, expect, it } from 'vitest'
import { random } from '../sound/random'
import { RATE, toFrames, type Stretch } from '../time'
import { breathsBetween } from './breaths'

const at = (from: number, to: number): Stretch => ({ from: toFrames(from), to: toFrames(to) })

/** Voiced talk where words are, a room everywhere, and bursts of noise that swell and fade. */
function talk(seconds: number, words: readonly Stretch[], bursts: readonly (Stretch & { level: number })[], room = 0.001): Float32Array {
  const next = random(7)
  let low = 0
  const out = Float32Array.from({ length: seconds * RATE }, () => {
    low += 0.05 * (next() - 0.5 - low) // a room is duller than a breath
    return room * (next() - 0.5) + 20 * room * low
  })
  for (const { from, to } of words)
    for (let i = from; i < to; i++) {
      const t = i / RATE
      const shape = Math.min(1, (i - from) / 500, (to - i) / 500)
      for (let k = 1; k < 40; k++) out[i] += (0.25 * shape * Math.sin(2 * Math.PI * 120 * k * t)) / k
    }
  for (const { from, to, level } of bursts) {
    let last = 0
    for (let i = from; i < to; i++) {
      const white = next() - 0.5
      out[i] += level * Math.sin((Math.PI * (i - from)) / (to - from)) * (white - 0.6 * last)
      last = white
    }
  }
  return out
}

const WORDS = [at(0.5, 0.9), at(1, 1.4), at(2.3, 2.8), at(3.6, 4.1)]

describe('breaths', () => {
  it('are found in pauses, where they are', () => {
    const found = breathsBetween(
      talk(5, WORDS, [
        { ...at(1.7, 2.1), level: 0.02 },
        { ...at(3, 3.3), level: 0.03 },
      ]),
      WORDS,
    )
    expect(found).toHaveLength(2)
    expect(Math.abs(found[0].from - toFrames(1.7))).toBeLessThan(toFrames(0.08))
    expect(Math.abs(found[0].to - toFrames(2.1))).toBeLessThan(toFrames(0.08))
  })

  it('are not the room, the end of a word, a click, or what is as loud as talk', () => {
    expect(breathsBetween(talk(5, WORDS, []), WORDS)).toEqual([])
    const bursts = [
      { ...at(0.9, 1), level: 0.03 },
      { ...at(1.41, 1.52), level: 0.03 },
      { ...at(3.1, 3.12), level: 0.1 },
      { ...at(4.3, 4.7), level: 1.5 },
    ]
    expect(breathsBetween(talk(5, WORDS, bursts), WORDS)).toEqual([])
  })

  it('are no sounds of talk that nobody wrote down', () => {
    expect(breathsBetween(talk(5, WORDS, [{ ...at(3, 3.3), level: 0.03 }]), WORDS.slice(0, 2))).toEqual([])
  })

  it('are not looked for where there are no words', () => {
    expect(breathsBetween(talk(2, [], [{ ...at(0.5, 0.9), level: 0.05 }]), [])).toEqual([])
  })
})
