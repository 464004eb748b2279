import { describe, expect, it } from 'vitest'
import { PEAK_LEVELS, PeakBuilder, PER_BIN } from '../sound/peaks'
import { random as seeded } from '../sound/random'
import { RATE, toFrames } from '../time'
import { afterLastNote, firstNote } from './musicEnds'

/** Peaks at the second level of so much silence with hiss, then a tone that swells over `attack` seconds; a click at `click`. */
function peaks(silence: number, attack: number, height: number, click?: number): Int16Array {
  const random = seeded(3)
  const builder = new PeakBuilder()
  const size = PEAK_LEVELS[0]
  for (let at = 0; at < toFrames(20); at += size) {
    let [low, high, squares] = [1, -1, 0]
    for (let i = at; i < at + size; i++) {
      const t = i / RATE - silence
      const tone = t > 0 ? height * Math.min(1, t / attack) * Math.sin(2 * Math.PI * 220 * t) : 0
      const sample = tone + (random() - 0.5) * 0.0008 + (click !== undefined && i === toFrames(click) ? 0.5 : 0)
      low = Math.min(low, sample)
      high = Math.max(high, sample)
      squares += sample * sample
    }
    builder.bin(low, high, squares / size)
  }
  builder.finish()
  return builder.take()[1]
}

describe('the first note of music', () => {
  it.each([
    [0.8, 0.01, 0.4],
    [2.35, 0.3, 0.2],
    [4, 0.05, 0.02],
  ])('is found after %s s of silence, an attack of %s s, at a height of %s', (silence, attack, height) => {
    const note = firstNote(peaks(silence, attack, height), PEAK_LEVELS[1]) / RATE
    expect(note).toBeGreaterThan(silence - 0.025)
    expect(note).toBeLessThan(silence + 0.25 * attack)
  })
  it('is no click in the silence before it', () => {
    expect(firstNote(peaks(3, 0.02, 0.3, 1), PEAK_LEVELS[1]) / RATE).toBeGreaterThan(2.97)
  })
  it('is where the tape begins where it begins at once, and where nothing is heard', () => {
    expect(firstNote(peaks(0, 0.005, 0.3), PEAK_LEVELS[1])).toBe(0)
    expect(firstNote(peaks(30, 0.1, 0.3), PEAK_LEVELS[1])).toBe(0)
    expect(firstNote(new Int16Array(0), PEAK_LEVELS[1])).toBe(0)
    expect(firstNote(new Int16Array(PER_BIN * 40), PEAK_LEVELS[1])).toBe(0)
  })
})

describe('the last note of music', () => {
  /** The same peaks from their end to their beginning. */
  const backwards = (of: Int16Array) => {
    const bins = Array.from({ length: of.length / PER_BIN }, (_, bin) => of.subarray(bin * PER_BIN, (bin + 1) * PER_BIN))
    return Int16Array.from(bins.reverse().flatMap((bin) => [...bin]))
  }
  it.each([
    [0.8, 1.5, 0.4],
    [5, 0.2, 0.1],
  ])('is over %s s before the end, after it has rung for %s s', (silence, ring, height) => {
    const after = afterLastNote(backwards(peaks(silence, ring, height)), PEAK_LEVELS[1]) / RATE
    expect(after).toBeGreaterThan(silence - 0.025)
    expect(after).toBeLessThan(silence + 0.25 * ring)
  })
  it('is the end where it sounds to its end, and where nothing is heard', () => {
    expect(afterLastNote(backwards(peaks(0, 0.005, 0.3)), PEAK_LEVELS[1])).toBe(0)
    expect(afterLastNote(new Int16Array(PER_BIN * 40), PEAK_LEVELS[1])).toBe(0)
  })
})
