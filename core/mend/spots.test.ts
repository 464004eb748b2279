import { describe, expect, it } from 'vitest'
import { RATE } from '../time'
import { withoutClicks } from './clicks'
import { withoutClipping } from './clipping'
import { withoutPops } from './pops'
import { dBFS, hissOf, less, voiceLike } from './voiceLike'

const voice = voiceLike(3)

describe('clicks', () => {
  const spots = [0.3, 0.9, 1.4, 2.05].map((second) => Math.round(second * RATE))
  const clicked = voice.slice()
  for (const spot of spots) for (let i = 0; i < 8; i++) clicked[spot + i] += (i % 2 ? -0.3 : 0.35) / (1 + i / 3)

  it('are found where they are and repaired by 12 dB and more, and nothing else changes', () => {
    const out = clicked.slice()
    const found = withoutClicks({ kind: 'clicks', over: 26 }, out)
    expect(found).toHaveLength(spots.length)
    found.forEach(({ from, to }, i) => {
      expect(from <= spots[i] && to > spots[i] + 2).toBe(true)
      expect(to - from).toBeLessThan(60)
      expect(dBFS(less(out, voice), from, to)).toBeLessThan(dBFS(less(clicked, voice), from, to) - 12)
    })
    const inOne = (i: number) => found.some(({ from, to }) => i >= from && i < to)
    expect(out.findIndex((sample, i) => sample !== clicked[i] && !inOne(i))).toBe(-1)
  })

  it('are not found in a voice without any, nor in noise', () => {
    expect(withoutClicks({ kind: 'clicks', over: 26 }, voice.slice())).toEqual([])
    expect(withoutClicks({ kind: 'clicks', over: 26 }, hissOf(RATE, 0.1))).toEqual([])
  })
})

describe('clipping', () => {
  const top = 0.16
  const clipped = voice.map((sample) => Math.max(-top, Math.min(top, sample)))
  const at = 20 * Math.log10(top) - 0.01

  it('is restored by 6 dB and more, never below where it was cut off, and nothing else changes', () => {
    const out = clipped.slice()
    const found = withoutClipping({ kind: 'clipping', at }, out)
    expect(found.length).toBeGreaterThan(50)
    expect(dBFS(less(out, voice))).toBeLessThan(dBFS(less(clipped, voice)) - 6)
    expect(
      out.findIndex((sample, i) => (Math.abs(clipped[i]) < top * 0.998 ? sample !== clipped[i] : Math.abs(sample) < top * 0.998)),
    ).toBe(-1)
  })

  it('is not restored where nothing is as loud', () => {
    const out = clipped.slice()
    expect(withoutClipping({ kind: 'clipping', at: -1 }, out)).toEqual([])
    expect(out.findIndex((sample, i) => sample !== clipped[i])).toBe(-1)
  })
})

describe('pops', () => {
  const spot = Math.round(1.3 * RATE)
  const popped = voice.slice()
  for (let i = 0; i < 4000; i++)
    popped[spot + i] += 0.9 * Math.sin((2 * Math.PI * 55 * i) / RATE) * Math.min(1, i / 300) * Math.exp(-i / 1200)

  it('lose what they add there, by 9 dB and more, and half a second away nothing changes', () => {
    const out = popped.slice()
    expect(withoutPops({ kind: 'pops', over: 12 }, out)).toHaveLength(1)
    expect(dBFS(less(out, voice), spot, spot + 4000)).toBeLessThan(dBFS(less(popped, voice), spot, spot + 4000) - 9)
    expect(dBFS(less(out, popped), 0, spot - RATE / 2)).toBeLessThan(-140)
    expect(dBFS(less(out, popped), spot + RATE / 2)).toBeLessThan(-140)
  })

  it('are not found in a voice without any', () => {
    expect(withoutPops({ kind: 'pops', over: 12 }, voice.slice())).toEqual([])
  })
})
