import { describe, expect, it } from 'vitest'
import { random as seeded } from '../sound/random'
import { RATE, toFrames, type Stretch } from '../time'
import { Clipping } from './clipping'
import { Ear, SILENCE } from './ear'
import { findingsOf, inWords, say } from './findings'
import { humOf } from './hum'
import { Levels } from './levels'

const random = seeded(7)
const hiss = (seconds: number, height: number) => Float32Array.from({ length: toFrames(seconds) }, () => (random() * 2 - 1) * height)
const sine = (seconds: number, frequency: number, height: number) =>
  Float32Array.from({ length: toFrames(seconds) }, (_, i) => height * Math.sin((2 * Math.PI * frequency * i) / RATE))

/** Something like a voice: a buzz at 140 Hz with syllables, over a hiss, where the stretches say. */
function voice(seconds: number, says: readonly Stretch[], height = 0.2, floor = 0.0008): Float32Array {
  const out = hiss(seconds, floor)
  for (const { from, to } of says)
    for (let i = from; i < to; i++) {
      const syllable = 0.55 - 0.45 * Math.cos((2 * Math.PI * 4 * (i - from)) / RATE)
      let buzz = 0
      for (let k = 2; k < 18; k++) buzz += Math.sin((2 * Math.PI * 140 * k * i) / RATE) / k
      out[i] += height * syllable * buzz
    }
  return out
}
const listen = (channels: Float32Array[], overs = false, block = 4096) => {
  const ear = new Ear(channels.length, overs)
  for (let at = 0; at < channels[0].length; at += block) ear.add(channels.map((samples) => samples.subarray(at, at + block)))
  return ear.finish()
}
const says = [
  { from: toFrames(1), to: toFrames(3) },
  { from: toFrames(4), to: toFrames(7) },
]
const voiced = voice(8, says)

describe('the ear', () => {
  it('finds where somebody speaks, how loud, and over what', () => {
    const figures = listen([voiced])
    expect(figures.speech).toHaveLength(2)
    figures.speech.forEach(({ from, to }, i) => {
      expect(Math.abs(from - says[i].from) / RATE).toBeLessThan(0.12)
      expect(Math.abs(to - says[i].to) / RATE).toBeLessThan(0.15)
    })
    // the hiss is even between -h and h: its level is h over the root of three
    expect(figures.channels[0].floor).toBeCloseTo(20 * Math.log10(0.0008 / Math.sqrt(3)), 0)
    const [{ from, to }] = says
    const power = voiced.subarray(from, to).reduce((sum, x) => sum + x * x, 0) / (to - from)
    expect(Math.abs(figures.channels[0].speechLevel - 10 * Math.log10(power))).toBeLessThan(1.5)
  })
  it('takes no rumble and no hiss for speech', () => {
    const rumble = hiss(6, 0.001).map((x, i) => x + (i > 2 * RATE && i < 4 * RATE ? 0.3 * Math.sin((2 * Math.PI * 45 * i) / RATE) : 0))
    expect(listen([rumble]).speech).toEqual([])
    expect(listen([hiss(6, 0.05)]).speech).toEqual([])
  })
  it('counts one channel as it is heard, from two loudspeakers', () => {
    expect(listen([voiced]).loudness).toEqual(listen([voiced, voiced]).loudness)
  })
  it('has figures for silence that can be written down', () => {
    const figures = listen([new Float32Array(RATE * 4)])
    expect(JSON.parse(JSON.stringify(figures))).toEqual(figures)
    expect(figures.loudness.integrated).toBe(SILENCE)
    expect(findingsOf(figures)).toEqual([{ what: 'silent' }])
    expect(inWords(figures)).toBe('Nothing can be heard on it.')
  })
  it('tells two channels apart: the same, one upside down, one empty, two voices', () => {
    const other = voice(
      8,
      [
        { from: toFrames(3), to: toFrames(4) },
        { from: toFrames(7), to: toFrames(8) },
      ],
      0.15,
    )
    const what = (channels: Float32Array[]) => findingsOf(listen(channels)).map((finding) => finding.what)
    expect(what([voiced, voiced])).toEqual(['same'])
    expect(what([voiced, voiced.map((x) => -0.8 * x)])).toEqual(['upsideDown'])
    expect(findingsOf(listen([new Float32Array(voiced.length), voiced]))).toEqual([{ what: 'empty', channel: 0 }])
    expect(what([voiced, other])).toEqual([])
  })
  it('says so of a very low recording', () => {
    const figures = listen([voice(8, says, 0.006, 0.00005)])
    expect(findingsOf(figures).map(({ what }) => what)).toEqual(['low'])
    expect(inWords(figures)).toContain('very low')
  })
  it('gives the same figures whatever the blocks', () => expect(listen([voiced], false, 999)).toEqual(listen([voiced], false, 50_000)))
})

describe('clipping', () => {
  const find = (samples: Float32Array, overs = false) => {
    const meter = new Clipping(overs)
    const levels = new Levels()
    for (let at = 0; at < samples.length; at += 333) {
      const some = samples.subarray(at, at + 333)
      meter.add(some, levels.add(some))
    }
    return meter
  }
  it('is found where a wave was flattened, each place once', () => {
    const loud = sine(3, 220, 0.5)
    for (let i = RATE; i < RATE + 4800; i++) loud[i] = Math.max(-0.99, Math.min(0.99, loud[i] * 4))
    for (let i = 2 * RATE; i < 2 * RATE + 9600; i++) loud[i] = Math.max(-0.99, Math.min(0.99, loud[i] * 4))
    const { count, places } = find(loud)
    expect(count).toBe(2)
    expect(Math.abs(places[0].from - RATE)).toBeLessThan(300)
    expect(Math.abs(places[1].to - 2 * RATE - 9600)).toBeLessThan(300)
  })
  it('is not found in what is merely loud', () => {
    for (const frequency of [50, 110, 440, 3000]) expect(find(sine(1, frequency, 0.999)).count).toBe(0)
    expect(find(hiss(1, 0.99)).count).toBe(0)
  })
  it('of a wave that was resampled since shows as overs; float above full scale is none', () => {
    expect(find(sine(1, 440, 1.2), true).count).toBeGreaterThan(0)
    expect(find(sine(1, 440, 1.2)).count).toBe(0)
  })
})

describe('hum', () => {
  const room = hiss(3, 0.001)
  const with_ = (frequency: number) =>
    room.map((x, i) => x + [1, 2, 3].reduce((sum, k) => sum + (0.002 / k) * Math.sin((2 * Math.PI * frequency * k * i) / RATE + k), 0))
  it('is told by its frequency and its level', () => {
    for (const frequency of [50, 60] as const) {
      const hum = humOf(with_(frequency))!
      expect(hum.frequency).toBe(frequency)
      const power = [1, 2, 3].reduce((sum, k) => sum + (0.002 / k) ** 2 / 2, 0)
      expect(Math.abs(hum.level - 10 * Math.log10(power))).toBeLessThan(1)
    }
  })
  it('is not heard in a plain room, nor in one long note', () => {
    expect(humOf(room)).toBeNull()
    expect(humOf(sine(3, 200, 0.1))).toBeNull()
    expect(humOf(new Float32Array(100))).toBeNull()
  })
})

describe('in words', () => {
  it('every finding has its sentence', () => {
    expect(say({ what: 'cutShort', at: toFrames(760) })).toBe('The file is cut short: it ends at 12:40.0.')
    expect(say({ what: 'clipped', count: 31 })).toBe('Clipped in 31 places.')
    expect(say({ what: 'empty', channel: 1 })).toBe('Channel 2 is empty.')
    expect(say({ what: 'low', level: -47.2 })).toBe('Recorded very low: speech lies at -47 dB.')
  })
})
