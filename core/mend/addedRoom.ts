import { exp2 } from '../sound/elementary'
import { fourier } from '../sound/fourier'
import { factor } from '../sound/level'
import { random } from '../sound/random'
import { RATE, type Frames } from '../time'
import { filterRun } from './filter'

/**
 * An added room: an effect. The sound is convolved with noise that decays as a room does (Moorer, "About this reverberation
 * business", 1979), from a fixed seed, a little darker than white, and laid under the sound as it was.
 */
export interface AddedRoom {
  kind: 'addedRoom'
  /** Until it is 60 dB down; no longer than what a run has before it. */
  seconds: number
  /** The room, relative to the sound itself. */
  dB: number
}

/** The nearest wall is some three metres away. */
const FIRST: Frames = Math.round(0.01 * RATE)
const SIZE = 1 << 16
/** 60 dB, as a power of two. */
const DECAY = 9.965784284662087
const TONE = [
  { kind: 'lowCut', hertz: 150, slope: 12 },
  { kind: 'highCut', hertz: 6000, slope: 6 },
] as const

const fft = fourier(SIZE)
/** Of the room that was asked for last: while a figure is turned the same one is asked for again and again. */
let last: { seconds: number; length: Frames; spectrum: Float64Array } | null = null

function roomOf(seconds: number): NonNullable<typeof last> {
  if (last?.seconds === seconds) return last
  const length = FIRST + Math.round(seconds * RATE)
  const next = random(0x20042)
  const room = new Float64Array(SIZE)
  for (let i = FIRST; i < length; i++) room[i] = (2 * next() - 1) * exp2((-DECAY * (i - FIRST)) / (length - FIRST))
  for (const filter of TONE) filterRun(filter, room.subarray(0, length))
  const energy = room.reduce((sum, sample) => sum + sample * sample, 0)
  for (let i = 0; i < length; i++) room[i] /= Math.sqrt(energy)
  const spectrum = spectrumOf(room)
  last = { seconds, length, spectrum }
  return last
}

function spectrumOf(samples: Float64Array): Float64Array {
  const out = new Float64Array(2 * SIZE)
  fft.realTransform(out as unknown as number[], samples)
  fft.completeSpectrum(out as unknown as number[])
  return out
}

/** Lays the room under a run, in place, by overlap and add. */
export function withRoom({ seconds, dB }: AddedRoom, samples: Float64Array): void {
  const { length, spectrum } = roomOf(seconds)
  const step = SIZE - length
  const level = factor(dB)
  const dry = samples.slice()
  const block = new Float64Array(SIZE)
  const product = new Float64Array(2 * SIZE)
  const back = new Float64Array(2 * SIZE)
  for (let at = 0; at < dry.length; at += step) {
    block.fill(0)
    block.set(dry.subarray(at, at + step))
    const sound = spectrumOf(block)
    for (let k = 0; k < 2 * SIZE; k += 2) {
      product[k] = sound[k] * spectrum[k] - sound[k + 1] * spectrum[k + 1]
      product[k + 1] = sound[k] * spectrum[k + 1] + sound[k + 1] * spectrum[k]
    }
    fft.inverseTransform(back as unknown as number[], product as unknown as number[])
    const end = Math.min(samples.length, at + SIZE)
    for (let i = at; i < end; i++) samples[i] += level * back[2 * (i - at)]
  }
}
