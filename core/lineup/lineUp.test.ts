import { describe, expect, it } from 'vitest'
import { random } from '../sound/random'
import { resampled } from '../sound/resample'
import { RATE, toFrames } from '../time'
import { lineUp } from './lineUp'
import type { Source } from './source'

/** Something like talk: bursts of noise in changing colours, never twice alike. */
function talk(seconds: number, seed: number): Float32Array {
  const next = random(seed)
  const out = new Float32Array(toFrames(seconds))
  for (let at = 0; at < out.length;) {
    const length = toFrames(0.06 + 0.2 * next())
    const hertz = 200 + 2500 * next() ** 2
    const loud = next() < 0.25 ? 0 : 0.2 * next()
    for (let i = 0; i < length && at < out.length; i++, at++)
      out[at] = loud * Math.sin((Math.PI * i) / length) * (Math.sin((2 * Math.PI * hertz * i) / RATE) + 0.6 * (next() - 0.5))
  }
  return out
}

const noisy = (sound: Float32Array, seed: number) => {
  const next = random(seed)
  return sound.map((sample) => 0.4 * sample + 0.01 * (next() - 0.5))
}

const source = (sound: Float32Array): Source => ({
  frames: sound.length,
  read: (from, to) => {
    const out = new Float32Array(to - from)
    const start = Math.max(0, from)
    if (start < Math.min(to, sound.length)) out.set(sound.subarray(start, Math.min(to, sound.length)), start - from)
    return out
  },
})

describe('lining up', () => {
  const said = talk(90, 1)

  it('finds offset and drift of a second recording, and says how sure it is', () => {
    const drift = -45e-6
    const other = noisy(resampled(source(said).read, toFrames(17.3), 1 + drift, toFrames(65)), 5)
    const found = lineUp(source(said), source(other))
    if (!found.belongs) return expect.fail(found.reason)
    for (const at of [0, 30, 65]) {
      const off = found.onto.offset + toFrames(at) * (1 + found.onto.drift) - (toFrames(17.3) + toFrames(at) * (1 + drift))
      expect(Math.abs(off)).toBeLessThan(RATE * 0.0005)
    }
    expect(found.agree).toBeGreaterThan(found.compared * 0.9)
    expect(found.spread).toBeLessThan(0.001)
  })

  it('finds one that began earlier, and one that is upside down', () => {
    const other = noisy(said, 6).map((sample) => -sample)
    const found = lineUp(source(said.subarray(toFrames(25))), source(other))
    if (!found.belongs) return expect.fail(found.reason)
    expect(Math.abs(found.onto.offset + toFrames(25))).toBeLessThan(RATE * 0.0005)
  })

  it('refuses two that share a passage and nothing else: it was played in both, or said again', () => {
    const passage = talk(44, 9)
    const around = (seed: number) => {
      const all = talk(90, seed)
      all.set(passage, toFrames(8))
      return source(all)
    }
    expect(lineUp(around(21), around(22))).toMatchObject({ belongs: false, reason: expect.stringContaining('one stretch') as string })
  })

  it('takes one whose speaker falls silent half way: where nothing is to be compared, nothing speaks against it', () => {
    const spoken = Float32Array.from(said)
    spoken.fill(0, toFrames(38))
    const found = lineUp(source(said), source(noisy(spoken, 7)))
    if (!found.belongs) return expect.fail(found.reason)
    expect(Math.abs(found.onto.offset)).toBeLessThan(RATE * 0.0005)
  })

  it('refuses what does not belong together, with the reason', () => {
    expect(lineUp(source(said), source(talk(60, 2)))).toMatchObject({
      belongs: false,
      reason: expect.stringMatching(/heard in the other|agree/) as string,
    })
    expect(lineUp(source(said), source(said.subarray(0, toFrames(4))))).toMatchObject({
      belongs: false,
      reason: expect.stringContaining('shorter than ten seconds') as string,
    })
    expect(lineUp(source(said), source(new Float32Array(toFrames(60))))).toMatchObject({ belongs: false })
  })
})
