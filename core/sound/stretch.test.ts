import { describe, expect, it } from 'vitest'
import { RATE } from '../time'
import { random } from './random'
import { STRETCH_BLOCK, Stretcher, type ReadFrames } from './stretch'

function readerOf(sound: Float32Array): ReadFrames {
  return (from, to) => [Float32Array.from({ length: to - from }, (_, i) => sound[from + i] ?? 0)]
}

function stretched(sound: Float32Array, speed: number): Float32Array {
  const stretcher = new Stretcher(readerOf(sound), 1, speed, 0)
  const blocks: Float32Array[] = []
  while (stretcher.at < sound.length) {
    const out = [new Float32Array(STRETCH_BLOCK)]
    stretcher.next(out)
    blocks.push(out[0])
  }
  const all = new Float32Array(blocks.length * STRETCH_BLOCK)
  blocks.forEach((block, i) => all.set(block, i * STRETCH_BLOCK))
  return all
}

const rms = (sound: Float32Array) => Math.sqrt(sound.reduce((sum, sample) => sum + sample * sample, 0) / sound.length)
const dB = (ratio: number) => 20 * Math.log10(ratio)

/** The frequency of a tone, by how its phase goes on over a second against a reference (frames of 0.1 s). */
function frequency(sound: Float32Array, near: number): number {
  const phase = (from: number) => {
    let re = 0
    let im = 0
    for (let i = 0; i < 4800; i++) {
      const window = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / 4800)
      const angle = (2 * Math.PI * near * (from + i)) / RATE
      re += sound[from + i] * window * Math.cos(angle)
      im -= sound[from + i] * window * Math.sin(angle)
    }
    return Math.atan2(im, re)
  }
  let turned = 0
  let before = phase(4800)
  const steps = Math.floor((sound.length - 14_400) / 480)
  for (let step = 1; step <= steps; step++) {
    const now = phase(4800 + step * 480)
    turned += ((((now - before + Math.PI) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI)) - Math.PI
    before = now
  }
  return near + turned / (2 * Math.PI) / ((steps * 480) / RATE)
}

/** Something like a voice: pulses of a wandering pitch through two resonances, in syllables with pauses. */
function voice(seconds: number): Float32Array {
  const out = new Float32Array(seconds * RATE)
  const state = [0, 0, 0, 0]
  let phase = 0
  for (let i = 0; i < out.length; i++) {
    const t = i / RATE
    const pitch = 110 + 25 * Math.sin(2 * Math.PI * 0.7 * t)
    phase += pitch / RATE
    const pulse = phase >= 1 ? 1 : 0
    if (phase >= 1) phase -= 1
    const loud = Math.max(0, Math.sin(2 * Math.PI * 2.2 * t))
    for (const [k, [centre, width]] of (
      [
        [600 + 300 * Math.sin(t), 90],
        [1500, 140],
      ] as const
    ).entries()) {
      const r = Math.exp((-Math.PI * width) / RATE)
      const y = pulse + 2 * r * Math.cos((2 * Math.PI * centre) / RATE) * state[2 * k] - r * r * state[2 * k + 1]
      state[2 * k + 1] = state[2 * k]
      state[2 * k] = y
      out[i] += 0.02 * loud * y
    }
  }
  return out
}

const SPEEDS = [0.5, 0.8, 1.3, 2, 3]

describe('sound at another speed', () => {
  it.each(SPEEDS)('%d times keeps the pitch and level of tones', (speed) => {
    for (const tone of [97, 1000]) {
      const sound = Float32Array.from({ length: 3 * RATE }, (_, i) => 0.3 * Math.sin((2 * Math.PI * tone * i) / RATE))
      const out = stretched(sound, speed)
      expect(Math.abs(out.length - sound.length / speed)).toBeLessThanOrEqual(STRETCH_BLOCK)
      const body = out.subarray(STRETCH_BLOCK, out.length - 2 * STRETCH_BLOCK)
      expect(Math.abs(1200 * Math.log2(frequency(body, tone) / tone))).toBeLessThan(5)
      expect(Math.abs(dB(rms(body) / rms(sound)))).toBeLessThan(1)
    }
  })

  it.each(SPEEDS)('%d times keeps the level of noise', (speed) => {
    const next = random(4)
    const sound = Float32Array.from({ length: 3 * RATE }, () => next() - 0.5)
    expect(Math.abs(dB(rms(stretched(sound, speed).subarray(STRETCH_BLOCK)) / rms(sound)))).toBeLessThan(1)
  })

  it.each(SPEEDS)('%d times keeps a voice’s level, and doubles none of its pulses', (speed) => {
    const sound = voice(6)
    const out = stretched(sound, speed)
    expect(Math.abs(dB(rms(out) / rms(sound)))).toBeLessThan(1)
    // pulses of the voice come no closer to one another than they did: a doubled one would stand between two
    expect(echo(out)).toBeLessThan(echo(sound) + 0.1)
  })

  it('at its own speed is the sound itself', () => {
    const sound = voice(2)
    const out = stretched(sound, 1)
    const difference = sound.map((sample, i) => sample - out[i])
    expect(dB(rms(difference) / rms(sound))).toBeLessThan(-40)
  })

  it('says beforehand what it reads', () => {
    const sound = voice(2)
    let allowed = { from: 0, to: 0 }
    const read = readerOf(sound)
    const stretcher = new Stretcher(
      (from, to) => {
        expect(from).toBeGreaterThanOrEqual(allowed.from)
        expect(to).toBeLessThanOrEqual(allowed.to)
        return read(from, to)
      },
      1,
      1.7,
      4000,
    )
    for (let i = 0; i < 30; i++) {
      allowed = stretcher.needs
      stretcher.next([new Float32Array(STRETCH_BLOCK)])
    }
  })
})

/**
 * The largest likeness of a sound's loud places with themselves 2 to 5 ms later: a voice of 100 to 135 Hz has none of
 * itself there but what rings.
 */
function echo(sound: Float32Array): number {
  let most = 0
  const level = rms(sound)
  for (let from = 0; from + 4096 < sound.length; from += 4096) {
    const part = sound.subarray(from, from + 2048)
    if (rms(part) < level) continue
    for (let lag = 96; lag < 240; lag += 2) {
      let product = 0
      let own = 0
      for (let i = 0; i < 2048; i++) {
        product += sound[from + i] * sound[from + i + lag]
        own += sound[from + i] ** 2
      }
      most = Math.max(most, product / own)
    }
  }
  return most
}
