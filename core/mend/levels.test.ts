import { describe, expect, it } from 'vitest'
import { RATE } from '../time'
import { curveBetween, thirdsOf, toned } from './curve'
import { softened } from './deEsser'
import { evened, heldAt } from './evened'
import { quietened } from './expander'
import { filterRun } from './filter'
import { Comparison } from './whatItDid'
import { dBFS, hissOf, less, voiceLike } from './voiceLike'

const voice = voiceLike(6)
/** Burst number `k` of the voice, without its ends. */
const burst = (samples: Float64Array, k: number) => dBFS(samples, (1.2 * k + 0.15) * RATE, (1.2 * k + 0.45) * RATE)
const pause = (samples: Float64Array, k: number) => dBFS(samples, (1.2 * k + 0.8) * RATE, (1.2 * k + 1) * RATE)

describe('level', () => {
  const near = voice.map((sample, i) => sample * (Math.floor(i / (1.2 * RATE)) % 2 ? 0.3 : 1))
  const set = { ratio: 4, least: -50 }

  it('brings soft and loud phrases together by its ratio, and the voice stays as loud', () => {
    const out = near.slice()
    evened({ kind: 'level', average: heldAt([near], set), ...set, passes: 1 }, out)
    const spread = (samples: Float64Array) => burst(samples, 2) - burst(samples, 1)
    expect(spread(near)).toBeGreaterThan(10)
    expect(spread(out)).toBeLessThan(spread(near) / 2)
    expect(Math.abs(dBFS(out) - dBFS(near))).toBeLessThan(1)
  })

  it('holds a burst of 30 dB within its second pass, and does not lift the room in pauses above the voice', () => {
    const burstAt = Math.round(2.6 * RATE)
    const laughed = voice.map((sample, i) => sample * 0.05 * (i > burstAt && i < burstAt + RATE / 5 ? 30 : 1))
    const at = (samples: Float64Array) => dBFS(samples, burstAt + 2400, burstAt + 7200) - burst(samples, 0)
    const out = laughed.slice()
    evened({ kind: 'level', average: -46, ratio: 4, least: -60, passes: 2 }, out)
    expect(at(laughed) - at(out)).toBeGreaterThan(15)
    expect(pause(out, 0)).toBeLessThan(burst(out, 0) - 20)
  })

  it('cannot say how to hold a voice where nobody speaks', () => {
    expect(heldAt([hissOf(RATE, 1e-5)], set)).toBeNaN()
  })
})

describe('an expander', () => {
  it('makes pauses softer by what is asked for, with slow shoulders, and leaves the voice', () => {
    const out = voice.slice()
    quietened({ kind: 'expander', dB: 8, from: -45 }, out)
    expect(pause(voice, 1) - pause(out, 1)).toBeGreaterThan(4)
    expect(burst(out, 1)).toBeCloseTo(burst(voice, 1), 6)
    const gains = out.map((sample, i) => (Math.abs(voice[i]) > 1e-5 ? sample / voice[i] : Number.NaN))
    // no step of more than half a dB within a hundredth of a second
    for (let i = 480; i < gains.length; i += 480)
      if (!Number.isNaN(gains[i]) && !Number.isNaN(gains[i - 480]))
        expect(Math.abs(20 * Math.log10(gains[i] / gains[i - 480]))).toBeLessThan(0.7)
  })
})

describe('a de-esser', () => {
  it('dips the band of an s while it hisses, by no more than is asked for, and leaves all else', () => {
    const hiss = hissOf(RATE / 4, 0.05)
    filterRun({ kind: 'lowCut', hertz: 5000, slope: 24 }, hiss)
    const sharp = voice.slice()
    hiss.forEach((sample, i) => (sharp[RATE + i] += sample))
    const out = sharp.slice()
    softened({ kind: 'deEsser', hertz: 7000, dB: 8, from: -42 }, out)
    const high = (samples: Float64Array) => {
      const band = samples.slice()
      filterRun({ kind: 'lowCut', hertz: 5500, slope: 24 }, band)
      filterRun({ kind: 'highCut', hertz: 9000, slope: 24 }, band)
      return dBFS(band, RATE + 2400, RATE + 9600)
    }
    expect(high(sharp) - high(out)).toBeGreaterThan(4)
    expect(high(sharp) - high(out)).toBeLessThan(8.1)
    expect(dBFS(less(out, sharp), 2 * RATE)).toBeLessThan(-140)
  })
})

describe('match', () => {
  it('makes a passage sound like another one, within 2 dB in third octaves', () => {
    const rich = voice
    const far = rich.slice()
    filterRun({ kind: 'lowShelf', hertz: 250, dB: -7 }, far)
    const [a, b] = [thirdsOf(far), thirdsOf(rich)]
    toned(curveBetween(a, b), far)
    const apart = thirdsOf(far).map((level, i) => Math.abs(level - b[i]))
    expect(Math.max(...apart.slice(2, 16))).toBeLessThan(2)
    expect(() => thirdsOf(new Float64Array(RATE))).toThrow(RangeError)
  })
})

describe('what a treatment did', () => {
  const did = (make: (samples: Float64Array) => void) => {
    const noisy = voice.map((sample, i) => sample + NOISE[i])
    const out = noisy.slice()
    make(out)
    const comparison = new Comparison()
    comparison.add(Float32Array.from(noisy), Float32Array.from(out))
    return comparison.finish()
  }
  const NOISE = hissOf(voice.length, 0.004)

  it('does not take a gain for a change, of the room or of the voice', () => {
    const { room, voice: changed } = did((samples) => samples.forEach((sample, i) => (samples[i] = sample / 2)))
    expect(room).toBeCloseTo(0, 1)
    expect(changed).toBeLessThan(-60)
  })

  it('tells how much softer the room is, and how much of the voice is another one', () => {
    const softer = did((samples) => quietened({ kind: 'expander', dB: 6, from: -35 }, samples))
    expect(softer.room).toBeGreaterThan(1.5)
    expect(softer.voice).toBeLessThan(-20)
    const other = did((samples) => hissOf(samples.length, 0.05, 4).forEach((sample, i) => (samples[i] += sample)))
    expect(other.voice).toBeGreaterThan(-14)
  })
})
