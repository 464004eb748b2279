import FFT from 'fft.js'
import { random } from '../core/sound/random'
import { factor } from '../core/sound/level'
import { RATE, toFrames, type Frames, type Stretch } from '../core/time'
import type { Say } from './tidyTape'
import { sentenceOf } from './spoken'

/** Speech whose clean truth is known, and what spoils it; all is drawn from seeds. */

export interface Clean {
  /** The voice in its own very quiet room, at -60 dBFS. */
  sound: Float32Array
  /** Where words are. */
  speech: Stretch[]
}

/** Level of the voice, RMS of its words, in dBFS. */
export const VOICE_LEVEL = -26
const ROOM_LEVEL = -60

export const powerIn = (sound: ArrayLike<number>, from: Frames, to: Frames): number => {
  let sum = 0
  for (let i = from; i < to; i++) sum += sound[i] * sound[i]
  return sum / Math.max(1, to - from)
}
export const powerOfStretches = (sound: ArrayLike<number>, stretches: readonly Stretch[]): number => {
  const frames = stretches.reduce((sum, { from, to }) => sum + to - from, 0)
  return stretches.reduce((sum, { from, to }) => sum + powerIn(sound, from, to) * (to - from), 0) / Math.max(1, frames)
}
export const dBOf = (power: number): number => 10 * Math.log10(power + 1e-20)

/** White noise of a seed, of variance 1 (the sum of twelve even draws is close to a bell curve). */
export function white(length: Frames, next: () => number): Float32Array {
  return Float32Array.from({ length }, () => {
    let sum = -6
    for (let k = 0; k < 12; k++) sum += next()
    return sum
  })
}

/** Pink noise, after Kellet's filter of white noise (3 dB an octave down). */
function pink(length: Frames, next: () => number): Float32Array {
  let [b0, b1, b2, b3, b4, b5, b6] = [0, 0, 0, 0, 0, 0, 0]
  return white(length, next).map((w) => {
    b0 = 0.99886 * b0 + w * 0.0555179
    b1 = 0.99332 * b1 + w * 0.0750759
    b2 = 0.969 * b2 + w * 0.153852
    b3 = 0.8665 * b3 + w * 0.3104856
    b4 = 0.55 * b4 + w * 0.5329522
    b5 = -0.7616 * b5 - w * 0.016898
    const out = b0 + b1 + b2 + b3 + b4 + b5 + b6 + w * 0.5362
    b6 = w * 0.115926
    return out
  })
}

/** Mains hum at 50 Hz, a little off, with ten harmonics that fall. */
export function hum(length: Frames, next: () => number): Float32Array {
  const mains = 50 + (next() - 0.5) * 0.2
  const tones = Array.from({ length: 10 }, (_, k) => ({
    hertz: mains * (k + 1),
    height: (0.4 + 0.6 * next()) / (k + 1) ** 0.7,
    phase: 6.28 * next(),
  }))
  return Float32Array.from({ length }, (_, i) =>
    tones.reduce((sum, { hertz, height, phase }) => sum + height * Math.sin((2 * Math.PI * hertz * i) / RATE + phase), 0),
  )
}

/** A street: low rumble and hiss that swell and sink over seconds, each by itself. */
function street(length: Frames, next: () => number): Float32Array {
  const low = pink(length, next)
  const high = white(length, next)
  const slow = () => Array.from({ length: Math.ceil(length / RATE / 1.5) + 2 }, () => (next() - 0.5) * 12)
  const [a, b] = [slow(), slow()]
  const at = (levels: number[], i: Frames) => {
    const place = i / RATE / 1.5
    const t = place - Math.floor(place)
    const s = t * t * (3 - 2 * t)
    return factor(levels[Math.floor(place)] * (1 - s) + levels[Math.floor(place) + 1] * s)
  }
  let held = 0
  return low.map((x, i) => {
    held += 0.25 * (high[i] - held)
    return at(a, i) * x + 0.25 * at(b, i) * held
  })
}

export const NOISES = {
  white,
  pink,
  'hum and hiss': (length: Frames, next: () => number) => {
    const hiss = white(length, next)
    const tones = hum(length, next)
    const by = Math.sqrt(powerIn(hiss, 0, length) / powerIn(tones, 0, length))
    return hiss.map((x, i) => 0.6 * x + 0.8 * by * tones[i])
  },
  'a street': street,
} as const
export type NoiseName = keyof typeof NOISES

/** Sentences of one voice with pauses between them, `seconds` long; before the first there are two seconds without. */
export function cleanSpeech(say: Say, seconds: number, seed: number): Clean {
  const next = random(seed)
  const sound = new Float32Array(toFrames(seconds))
  const speech: Stretch[] = []
  let at = toFrames(2)
  for (;;) {
    const { samples, words } = say(sentenceOf(next))
    const [from, to] = [words[0].from, words[words.length - 1].to]
    if (at + to - from + toFrames(0.5) > sound.length) break
    sound.set(samples.subarray(from, to), at)
    speech.push({ from: at, to: at + to - from })
    at += to - from + toFrames(0.5 + 0.7 * next())
  }
  const by = factor(VOICE_LEVEL) / Math.sqrt(powerOfStretches(sound, speech))
  const room = factor(ROOM_LEVEL)
  const hiss = white(sound.length, next)
  return { sound: sound.map((x, i) => by * x + room * hiss[i]), speech }
}

/** Adds a noise so many dB below the voice. */
export function noisy({ sound, speech }: Clean, noise: Float32Array, snr: number): Float32Array {
  const by = Math.sqrt(powerOfStretches(sound, speech) / powerIn(noise, 0, noise.length)) * factor(-snr)
  return sound.map((x, i) => x + by * noise[i])
}

/** Where nobody speaks between words, away from their ends. */
export function pausesOf({ speech }: Clean): Stretch[] {
  const margin = toFrames(0.08)
  let at = 0
  return speech.flatMap(({ from, to }) => {
    const pause = { from: at + margin, to: from - margin }
    at = to
    return pause.to - pause.from > toFrames(0.2) ? [pause] : []
  })
}

/** Hum so many dB below the voice. */
export function humming({ sound, speech }: Clean, next: () => number, below: number): Float32Array {
  const tones = hum(sound.length, next)
  const by = Math.sqrt(powerOfStretches(sound, speech) / powerIn(tones, 0, tones.length)) * factor(-below)
  return tones.map((x) => by * x)
}

/** Clicks at random places: a hard edge and what dies away after it, up to 20 frames, some far below the voice's own peaks. */
export function clicked(sound: Float32Array, next: () => number): { sound: Float32Array; spots: Stretch[] } {
  const out = sound.slice()
  const spots: Stretch[] = []
  for (let at = 2000 + Math.floor(next() * 16_000); at < sound.length - 3000; at += 4000 + Math.floor(next() * 24_000)) {
    const length = 1 + Math.floor(next() * 20)
    const height = (0.08 + 0.42 * next()) * (next() < 0.5 ? -1 : 1)
    for (let i = 0; i < length; i++) out[at + i] += i === 0 ? height : height * (2 * next() - 1) * Math.exp((-2.5 * i) / length)
    spots.push({ from: at, to: at + length })
  }
  return { sound: out, spots }
}

/** Speech turned up until so much of it is cut off. `at`: from which level on, in dBFS. */
export function clipped(clean: Clean, share: number): { sound: Float32Array; truth: Float32Array; spots: Stretch[]; at: number } {
  const heights: number[] = []
  for (const { from, to } of clean.speech) for (let i = from; i < to; i++) heights.push(Math.abs(clean.sound[i]))
  heights.sort((a, b) => b - a)
  const top = 0.9
  const by = top / heights[Math.floor(share * heights.length)]
  const truth = clean.sound.map((x) => by * x)
  const spots = [...truth.keys()].filter((i) => Math.abs(truth[i]) > top).map((i) => ({ from: i, to: i + 1 }))
  return { sound: truth.map((x) => Math.max(-top, Math.min(top, x))), truth, spots, at: dBOf(top * top) - 0.01 }
}

/** The low end pushed, as by a p: at the beginning of some words. */
export function popped({ sound, speech }: Clean, next: () => number): { sound: Float32Array; spots: Stretch[] } {
  const out = sound.slice()
  const spots = speech.map(({ from, to }) => {
    const at = from + Math.floor(next() * (to - from - toFrames(0.3)))
    const hertz = 35 + 45 * next()
    const [rise, decay] = [toFrames(0.008), toFrames(0.02 + 0.025 * next())]
    const height = 0.25 + 0.2 * next()
    const length = rise + 3 * decay
    for (let i = 0; i < length; i++)
      out[at + i] += height * Math.sin((2 * Math.PI * hertz * i) / RATE) * (i < rise ? i / rise : Math.exp(-(i - rise) / decay))
    return { from: at, to: at + length }
  })
  return { sound: out, spots }
}

/** The same voice in a room that rings: what comes within 50 ms, what comes later, and both. */
export function roomy({ sound }: Clean, seconds: number, seed: number): { early: Float32Array; late: Float32Array; sound: Float32Array } {
  const next = random(seed)
  const length = toFrames(seconds)
  const room = new Float32Array(length)
  room[0] = 1
  for (let k = 0; k < 8; k++) room[Math.floor(100 + next() * 1800)] += (next() - 0.5) * 0.6
  for (let i = 300; i < length; i++) room[i] += 0.035 * (next() + next() + next() - 1.5) * Math.exp((-6.91 * i) / length)
  const [early, late] = [room.slice(), room.slice()]
  early.fill(0, toFrames(0.05))
  late.fill(0, 0, toFrames(0.05))
  const [a, b] = [convolved(sound, early), convolved(sound, late)]
  return { early: a, late: b, sound: a.map((x, i) => x + b[i]) }
}

function convolved(sound: Float32Array, response: Float32Array): Float32Array {
  let size = 1
  while (size < sound.length + response.length) size *= 2
  const fft = new FFT(size)
  const spectrum = (samples: Float32Array) => {
    const out = fft.createComplexArray()
    const input = new Float64Array(size)
    input.set(samples)
    fft.realTransform(out, input)
    fft.completeSpectrum(out)
    return out
  }
  const [a, b] = [spectrum(sound), spectrum(response)]
  const product = fft.createComplexArray()
  for (let i = 0; i < 2 * size; i += 2) {
    product[i] = a[i] * b[i] - a[i + 1] * b[i + 1]
    product[i + 1] = a[i] * b[i + 1] + a[i + 1] * b[i]
  }
  const out = fft.createComplexArray()
  fft.inverseTransform(out, product)
  return Float32Array.from({ length: sound.length }, (_, i) => out[2 * i])
}

/** A voice that comes near and goes away: each phrase by up to 9 dB louder or softer. */
export function ranging({ sound, speech }: Clean, next: () => number): Float32Array {
  const out = sound.slice()
  for (const { from, to } of speech) {
    const by = factor(18 * next() - 9)
    for (let i = from; i < to; i++) out[i] *= by
  }
  return out
}

/** Tones at which a room rings, as resonators beside the voice: each dies away by 60 dB within `seconds`, and is `gain` times as strong. */
export function ringing(sound: Float32Array, tones: readonly { hertz: number; seconds: number; gain: number }[]): Float32Array {
  const out = sound.slice()
  for (const { hertz, seconds, gain } of tones) {
    const radius = 10 ** (-3 / (seconds * RATE))
    const [a, b] = [2 * radius * Math.cos((2 * Math.PI * hertz) / RATE), -radius * radius]
    let [one, two] = [0, 0]
    sound.forEach((sample, i) => {
      const now = (1 - radius) * sample + a * one + b * two
      two = one
      one = now
      out[i] += gain * now
    })
  }
  return out
}
