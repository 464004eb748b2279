import { describe, expect, it } from 'vitest'
import { random } from '../sound/random'
import { applyAll } from '../steps/document'
import { RATE, toFrames } from '../time'
import { transcriptType, wordsOf, type Transcript } from '../transcript/transcript'
import { VoiceFeatures } from './features'
import { tellApart, type Turn } from './tellApart'
import { givenTo, suggested } from './voicesOf'

/** Pulses through the resonances of a throat of a length; vowels wander, so that no two looks are the same. */
function voice(seconds: number, pitch: number, throat: number, seed: number): Float32Array {
  const next = random(seed)
  const out = new Float32Array(seconds * RATE)
  const state = new Float64Array(8)
  let phase = 0
  let vowel = [500, 1500, 2500, 3500]
  for (let i = 0; i < out.length; i++) {
    if (i % 6000 === 0) vowel = [350 + 400 * next(), 1000 + 1000 * next(), 2400 + 300 * next(), 3400 + 300 * next()]
    phase += (pitch * (1 + 0.1 * Math.sin(i / 9000))) / RATE
    const pulse = phase >= 1 ? 1 : 0.02 * (next() - 0.5)
    if (phase >= 1) phase -= 1
    vowel.forEach((centre, k) => {
      const r = Math.exp((-Math.PI * (60 + 40 * k)) / RATE)
      const y = pulse + 2 * r * Math.cos((2 * Math.PI * centre * throat) / RATE) * state[2 * k] - r * r * state[2 * k + 1]
      state[2 * k + 1] = state[2 * k]
      state[2 * k] = y
      out[i] += (0.02 / (k + 1)) * y * (i % 6000 < 5000 ? 1 : 0.15)
    })
  }
  return out
}

const all = { from: 0, to: toFrames(40) }

function heard(parts: readonly Float32Array[]): Turn[] {
  const features = new VoiceFeatures()
  for (const part of parts) features.add(part)
  return tellApart(features.finish(), [all])
}

describe('voices on one channel', () => {
  it('are told apart, and known again', () => {
    const turns = heard([voice(10, 110, 1, 1), voice(10, 200, 1.18, 2), voice(10, 110, 1, 3), voice(10, 200, 1.18, 4)])
    expect(new Set(turns.map((turn) => turn.voice)).size).toBe(2)
    const at = (seconds: number) => turns.find(({ from, to }) => from <= toFrames(seconds) && to > toFrames(seconds))?.voice
    for (const seconds of [2, 5, 8, 22, 25, 28]) expect(at(seconds)).toBe(0)
    for (const seconds of [12, 15, 18, 32, 35, 38]) expect(at(seconds)).toBe(1)
  })

  it('are one where one speaks, and none where nobody does', () => {
    expect(new Set(heard([voice(30, 120, 1, 5)]).map((turn) => turn.voice)).size).toBe(1)
    expect(tellApart(new VoiceFeatures().finish(), [])).toEqual([])
  })
})

describe('whose words are', () => {
  const words = 'were you told nobody told us'.split(' ').map((text, i) => ({ text, from: i * 1000, to: i * 1000 + 900 }))
  const transcript: Transcript = { kind: 'transcript', words, voices: {} }
  const turns: Turn[] = [
    { from: 0, to: 2950, voice: 0 },
    { from: 2950, to: 6000, voice: 1 },
  ]

  it('is suggested by who speaks for most of each', () => {
    const named = applyAll(transcriptType, transcript, suggested(transcript, turns))
    expect(wordsOf(named).map(({ speaker }) => speaker)).toEqual(['Voice 1', 'Voice 1', 'Voice 1', 'Voice 2', 'Voice 2', 'Voice 2'])
    expect(suggested(named, turns)).toEqual([])
    expect(suggested(transcript, turns.slice(0, 1))).toEqual([])
  })

  it('is corrected: some words are another’s, whether known or new', () => {
    const named = applyAll(transcriptType, transcript, suggested(transcript, turns))
    const moved = applyAll(transcriptType, named, givenTo(named, [2], 'Voice 2'))
    expect(wordsOf(moved)[2].speaker).toBe('Voice 2')
    const third = applyAll(transcriptType, moved, givenTo(moved, [0, 4], 'Tamsin Roe'))
    expect(wordsOf(third).map(({ speaker }) => speaker)).toEqual(['Tamsin Roe', 'Voice 1', 'Voice 2', 'Voice 2', 'Tamsin Roe', 'Voice 2'])
    expect(givenTo(third, [0], 'Tamsin Roe')).toEqual([])
  })
})
