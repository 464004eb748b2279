import { BANDS, LOOK_STEP, SoundLooks } from '../align/bands'
import { clamp, milliseconds, RATE, type Frames } from '../time'

/** The differences in level, pitch and spectrum across a join. */
export interface Jump {
  /** Level after the join less that before it, in dB. */
  level: number
  /** Pitch after the join less that before it, in semitones; null if there is no voice on one of the sides. */
  pitch: number | null
  /** Mean difference of the bands in dB, the level left out. */
  spectrum: number
}

const LOOK = milliseconds(20)
const SILENT = -75
/** Where a voice may lie, in frames of one period. */
const [LOW_PERIOD, HIGH_PERIOD] = [Math.round(RATE / 400), Math.round(RATE / 70)]
const VOICED = 0.5
const PITCH_WINDOW = milliseconds(36)
/** Below this level no pitch is looked for. */
const SOFTEST = -60

/** The sound before a place and the sound after it, each with the place at its end and its start: 60 ms or more. */
export function jumpBetween(before: Float32Array, after: Float32Array): Jump {
  const last = before.subarray(before.length - LOOK)
  const first = after.subarray(0, LOOK)
  const [a, b] = [Math.max(SILENT, decibels(last)), Math.max(SILENT, decibels(first))]
  const pitches = [pitchOf(before.subarray(before.length - PITCH_WINDOW)), pitchOf(after.subarray(0, PITCH_WINDOW))]
  return {
    level: b - a,
    pitch: pitches[0] && pitches[1] ? 12 * Math.log2(pitches[1] / pitches[0]) : null,
    spectrum: unlike(spectrumOf(before, 'end'), spectrumOf(after, 'start')),
  }
}

function decibels(samples: Float32Array): number {
  let sum = 0
  for (const sample of samples) sum += sample * sample
  return 10 * Math.log10(sum / samples.length + 1e-12)
}

function spectrumOf(sound: Float32Array, side: 'start' | 'end'): Float32Array {
  const near = sound.length > 4 * LOOK ? (side === 'end' ? sound.subarray(sound.length - 4 * LOOK) : sound.subarray(0, 4 * LOOK)) : sound
  const looks = new SoundLooks(near)
  const sum = new Float32Array(BANDS)
  const middle = side === 'end' ? looks.count - Math.round(LOOK / 2 / LOOK_STEP) : Math.round(LOOK / 2 / LOOK_STEP)
  for (const by of [-2, 0, 2]) {
    const bands = looks.bands(clamp(middle + by, 0, looks.count - 1))
    for (let band = 0; band < BANDS; band++) sum[band] += Math.max(SILENT, bands[band]) / 3
  }
  return sum
}

function unlike(a: Float32Array, b: Float32Array): number {
  let level = 0
  for (let band = 0; band < BANDS; band++) level += (b[band] - a[band]) / BANDS
  let sum = 0
  for (let band = 0; band < BANDS; band++) sum += Math.abs(b[band] - a[band] - level)
  return sum / BANDS
}

/** The pitch of a voice in hertz, by autocorrelation of every third sample; 0 where there is none. */
export function pitchOf(sound: Float32Array): number {
  if (decibels(sound) < SOFTEST) return 0
  const STEP = 3
  const few = Float32Array.from({ length: Math.floor(sound.length / STEP) }, (_, i) => sound[i * STEP])
  // the power up to each sample, so that no lag sums it up again
  const power = new Float64Array(few.length + 1)
  for (let i = 0; i < few.length; i++) power[i + 1] = power[i] + few[i] * few[i]
  const at = (period: Frames) => {
    const count = few.length - period
    let product = 0
    for (let i = 0; i < count; i++) product += few[i] * few[i + period]
    return product / Math.sqrt((power[count] + 1e-9) * (power[few.length] - power[period] + 1e-9))
  }
  const first = Math.floor(LOW_PERIOD / STEP)
  const found: number[] = []
  for (let period = first; period <= Math.min(HIGH_PERIOD / STEP, few.length * 0.7); period++) found.push(at(period))
  const most = Math.max(...found)
  if (most < VOICED) return 0
  // a multiple of the period is as like: the shortest that is nearly the best counts
  let best = found.findIndex((value, i) => value > most - 0.06 && value >= (found[i + 1] ?? -1))
  const [before, here, after] = [found[best - 1] ?? 0, found[best], found[best + 1] ?? 0]
  const bend = before - 2 * here + after
  if (bend < 0 && best > 0) best += (before - after) / (2 * bend)
  return RATE / ((first + best) * STEP)
}
