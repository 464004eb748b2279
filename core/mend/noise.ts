import { exp2, log2 } from '../sound/elementary'
import { factor } from '../sound/level'
import { RATE } from '../time'
import { followNoise } from './noiseFollowed'
import { BINS, meansAround, powerOf, SIZE, soundOf, spectraOf, type Spectra } from './spectra'

/**
 * Noise under a voice, so many dB less of it. Each bin of the spectrum is turned by the gain that errs least in the logarithm of its
 * size (Ephraim and Malah 1985). How much of it is speech is told from the mean of its neighbours in time, before and behind, and in
 * frequency, not by their way from frame to frame, which knows only what came before. Where a wider neighbourhood is no louder than
 * noise alone, the gain is the floor and nothing else: so the room stays alive and nothing chirps (the idea of Cohen and Berdugo 2001).
 */
export interface Noise {
  kind: 'noise'
  /** How much less of it, in dB. */
  dB: number
  /** Level of the noise in each band, in dB, as it was learnt; without it, it is followed as it changes. */
  learnt?: readonly number[]
}

/** Neighbours that tell the share of speech, and those that tell whether there is any: frames and bins to either side. */
const NEAR = { frames: 2, bins: 1 }
const WIDE = { frames: 4, bins: 40 }
/** Between these, over the noise, speech comes in: closer where the noise is known than where it is followed. */
const KNOWN = [1.1, 1.3] as const
const FOLLOWED = [1.4, 2.2] as const
/** The least share of speech that a gain is worked out for. */
const LEAST_SHARE = 0.003
/** Digital silence has some noise, too: no share is taken of nothing. */
const SILENT = 1e-12

/** The first bin of each band: one bin each up to 1 kHz, from there on a thirtieth wider each time. */
const BAND_STARTS: readonly number[] = bandStarts()
/** Levels are told to a tenth of a dB. No band is quieter than this. */
const QUIETEST = -160
const DB_PER_DOUBLING = 3.010299956639812

function bandStarts(): number[] {
  const starts: number[] = []
  for (let bin = 0; bin < BINS; bin += Math.max(1, Math.round(bin / 30))) starts.push(bin)
  return starts
}

export const NOISE_BANDS = BAND_STARTS.length
/** The middle of each band, in Hz. */
export const NOISE_BAND_HERTZ: readonly number[] = BAND_STARTS.map((from, band) => (((from + bandEnd(band) - 1) / 2) * RATE) / SIZE)

/** The bin behind a band. */
function bandEnd(band: number): number {
  return BAND_STARTS[band + 1] ?? BINS
}

/** The shortest stretch that noise is learnt from, in frames. */
export const LEAST_TO_LEARN = 4 * SIZE

/** The level of each band over a stretch without speech. Throws a RangeError where it is too short, or silent. */
export function learnNoise(samples: Float64Array): number[] {
  if (samples.length < LEAST_TO_LEARN) throw new RangeError('too short to learn noise from')
  const spectra = spectraOf(samples)
  const power = powerOf(spectra)
  // frames that reach beyond the ends are left out
  const [first, last] = [1, spectra.frames - 1]
  const levels = BAND_STARTS.map((from, band) => {
    let sum = 0
    for (let frame = first; frame < last; frame++) for (let bin = from; bin < bandEnd(band); bin++) sum += power[frame * BINS + bin]
    const level = sum / ((bandEnd(band) - from) * (last - first))
    return level > 0 ? Math.max(QUIETEST, Math.round(10 * DB_PER_DOUBLING * log2(level)) / 10) : QUIETEST
  })
  if (levels.every((level) => level === QUIETEST)) throw new RangeError('there is no noise in it')
  return levels
}

/** What is known of a run before it is said how many dB of its noise go. */
export interface NoiseHeard {
  spectra: Spectra
  /** The gain of each bin of each frame if all that is heard there were a voice in that noise. */
  gains: Float64Array
  /** How surely there is a voice, from 0 to 1. */
  present: Float64Array
}

/** What there is to know of the noise of a run; it stays as it is while only the dB are turned. `learnt`: see `Noise`. */
export function hearNoise(samples: Float64Array, learnt: Noise['learnt']): NoiseHeard {
  const spectra = spectraOf(samples)
  const power = powerOf(spectra)
  if (learnt) inMultiples(power, powerOfBands(learnt), 0)
  else inMultiples(power, followNoise(power, spectra.frames), BINS)
  return { spectra, ...voiceIn(power, spectra.frames, learnt ? KNOWN : FOLLOWED) }
}

/** So many dB less of the noise, into a run that is as long as the one that was heard. */
export function lessNoise({ spectra, gains, present }: NoiseHeard, dB: number, into: Float64Array): void {
  const floor = factor(-dB)
  const logFloor = log2(floor)
  const turns = new Float32Array(gains.length)
  for (let i = 0; i < turns.length; i++) {
    if (present[i] === 0) {
      turns[i] = floor
      continue
    }
    const gain = Math.max(floor, gains[i])
    turns[i] = present[i] === 1 ? gain : exp2(present[i] * log2(gain) + (1 - present[i]) * logFloor)
  }
  soundOf(spectra, turns, into)
}

/** Power of each bin of each frame as multiples of that of the noise, in place; the noise of the next frame lies `on` bins on. */
function inMultiples(power: Float64Array, noise: Float64Array, on: number): void {
  for (let frame = 0; frame * BINS < power.length; frame++)
    for (let bin = 0; bin < BINS; bin++) power[frame * BINS + bin] /= Math.max(noise[frame * on + bin], SILENT)
}

function powerOfBands(learnt: readonly number[]): Float64Array {
  const power = new Float64Array(BINS)
  BAND_STARTS.forEach((from, band) => power.fill(factor(learnt[band] ?? QUIETEST) ** 2, from, bandEnd(band)))
  return power
}

/**
 * How surely there is a voice, and its gain, for each bin of each frame, from its power in multiples of the noise. The gains lie where
 * the power lay: means are taken of frames ahead alone.
 */
function voiceIn(power: Float64Array, frames: number, [none, some]: readonly [number, number]): Pick<NoiseHeard, 'gains' | 'present'> {
  const nearAt = meansAround(power, frames, NEAR)
  const wideAt = meansAround(power, frames, WIDE)
  const present = new Float64Array(power.length)
  for (let frame = 0; frame < frames; frame++) {
    const near = nearAt(frame)
    const wide = wideAt(frame)
    const at = frame * BINS
    for (let bin = 0; bin < BINS; bin++) {
      if (wide[bin] <= none) continue
      power[at + bin] = speechGain(Math.max(LEAST_SHARE, near[bin] - 1), power[at + bin])
      const t = Math.min(1, (wide[bin] - none) / (some - none))
      present[at + bin] = t * t * (3 - 2 * t)
    }
  }
  return { gains: power, present }
}

/** The gain that errs least in the logarithm, for so much speech and so much power, both in multiples of the noise. */
function speechGain(speech: number, power: number): number {
  const share = speech / (1 + speech)
  return Math.min(1, share * rootOfExpIntegral(share * power))
}

/** The root of e to the exponential integral E1 (Abramowitz and Stegun 5.1.11), from a table; close to 0 by its first terms. */
function rootOfExpIntegral(v: number): number {
  if (v >= TABLE_END) return 1
  if (v < TABLE_STEP) return (0.7493060013 * (1 + v / 2)) / Math.sqrt(Math.max(v, 1e-12))
  const place = v / TABLE_STEP
  const index = Math.floor(place)
  return TABLE[index] + (place - index) * (TABLE[index + 1] - TABLE[index])
}

const TABLE_STEP = 1 / 64
const TABLE_END = 8
const EULER = 0.5772156649015329
const LN2 = 0.6931471805599453
const TABLE = Float64Array.from({ length: TABLE_END / TABLE_STEP + 1 }, (_, i) => {
  const v = Math.max(1, i) * TABLE_STEP
  let term = 1
  let sum = -EULER - log2(v) * LN2
  for (let n = 1; n < 60; n++) {
    term *= -v / n
    sum -= term / n
  }
  return exp2(sum / 2 / LN2)
})
