import { Ear } from '../core/hearing/ear'
import { thirdsOf } from '../core/mend/curve'
import { fourier } from '../core/sound/fourier'
import { hann } from '../core/sound/window'
import type { Stretch } from '../core/time'

/** How far a mended sound is from the clean one. */

const SIZE = 2048
const HOP = 512
const WINDOW = hann(SIZE, 0.5)
/** Bins count that are within so many dB of the highest one of their frame. */
const WITHIN = 50

/** Power of a bin in the noise of a 16-bit file, -98 dBFS: digital silence is no closer or farther than that. */
const LEAST = 0.375 * SIZE * 10 ** -9.8

const fft = fourier(SIZE)

export function* spectraAt(sound: Float32Array, stretches: readonly Stretch[]): Generator<Float64Array> {
  const out = new Float64Array(2 * SIZE)
  const input = new Float64Array(SIZE)
  for (const { from, to } of stretches)
    for (let at = from; at + SIZE <= to; at += HOP) {
      for (let i = 0; i < SIZE; i++) input[i] = WINDOW[i] * sound[at + i]
      fft.realTransform(out as unknown as number[], input)
      const power = new Float64Array(SIZE / 2)
      for (let bin = 0; bin < SIZE / 2; bin++) power[bin] = out[2 * bin] ** 2 + out[2 * bin + 1] ** 2
      yield power
    }
}

/** Log-spectral distance in dB, over frames of speech (Gray and Markel 1976). */
export function logDistance(sound: Float32Array, clean: Float32Array, speech: readonly Stretch[]): number {
  let [sum, frames] = [0, 0]
  const ours = spectraAt(sound, speech)
  for (const truth of spectraAt(clean, speech)) {
    const made = ours.next().value as Float64Array
    const least = Math.max(...truth) * 10 ** (-WITHIN / 10)
    let [square, bins] = [0, 0]
    for (let bin = 1; bin < truth.length; bin++)
      if (truth[bin] > least) {
        square += (10 * Math.log10((made[bin] + LEAST) / (truth[bin] + LEAST))) ** 2
        bins++
      }
    if (!bins) continue
    sum += Math.sqrt(square / bins)
    frames++
  }
  return sum / frames
}

/** Kurtosis of the power in each bin over the frames of stretches without speech, its mean over bins (Uemura and others 2008). */
export function kurtosis(sound: Float32Array, stretches: readonly Stretch[]): number {
  const all = [...spectraAt(sound, stretches)]
  let sum = 0
  const bins = SIZE / 2
  for (let bin = 1; bin < bins; bin++) {
    const mean = all.reduce((a, power) => a + power[bin], 0) / all.length
    const second = all.reduce((a, power) => a + (power[bin] - mean) ** 2, 0) / all.length
    const fourth = all.reduce((a, power) => a + (power[bin] - mean) ** 4, 0) / all.length
    sum += fourth / (second * second)
  }
  return sum / (bins - 1)
}

/** What differs from the truth over stretches, in dB over the truth. */
export function changed(sound: Float32Array, truth: Float32Array, stretches: readonly Stretch[]): number {
  let [error, power] = [0, 0]
  for (const { from, to } of stretches)
    for (let i = from; i < to; i++) {
      error += (sound[i] - truth[i]) ** 2
      power += truth[i] ** 2
    }
  return 10 * Math.log10(error / power + 1e-20)
}

/** The level of what differs from the truth over stretches, in dB. */
export function levelOfDifference(sound: Float32Array, truth: Float32Array, stretches: readonly Stretch[]): number {
  let [error, count] = [0, 0]
  for (const { from, to } of stretches)
    for (let i = from; i < to; i++) {
      error += (sound[i] - truth[i]) ** 2
      count++
    }
  return 10 * Math.log10(error / count + 1e-20)
}

/** Signal to distortion at spots and a little around them, in dB. */
export function sdrAt(sound: Float32Array, truth: Float32Array, spots: readonly Stretch[], around = 48): number {
  let [error, power] = [0, 0]
  for (const { from, to } of spots)
    for (let i = from - around; i < to + around; i++) {
      error += (sound[i] - truth[i]) ** 2
      power += truth[i] ** 2
    }
  return 10 * Math.log10(power / (error + 1e-20))
}

/** Tiles of spectra that early and late sound are told apart in: frames and bins. */
const TILE = { frames: 16, bins: 16 }

/** Clarity (C50) of what was made, in dB: in each tile as much early and as much late sound as explain it best (least squares). */
export function clarity(made: Float32Array, early: Float32Array, late: Float32Array): number {
  const [m, e, l] = [made, early, late].map(allSpectra)
  let [sumEarly, sumLate] = [0, 0]
  for (let frame = 0; frame < m.length; frame += TILE.frames)
    for (let bin = 0; bin < SIZE / 2; bin += TILE.bins) {
      let [ee, ll, el, me, ml] = [0, 0, 0, 0, 0]
      for (let f = frame; f < Math.min(m.length, frame + TILE.frames); f++)
        for (let i = 2 * bin; i < 2 * (bin + TILE.bins); i++) {
          ee += e[f][i] * e[f][i]
          ll += l[f][i] * l[f][i]
          el += e[f][i] * l[f][i]
          me += m[f][i] * e[f][i]
          ml += m[f][i] * l[f][i]
        }
      const apart = ee * ll - el * el
      if (apart <= 1e-9 * ee * ll) continue
      sumEarly += ((me * ll - ml * el) / apart) ** 2 * ee
      sumLate += ((ml * ee - me * el) / apart) ** 2 * ll
    }
  return 10 * Math.log10(sumEarly / sumLate)
}

function allSpectra(sound: Float32Array): Float64Array[] {
  const out: Float64Array[] = []
  const input = new Float64Array(SIZE)
  for (let at = 0; at + SIZE <= sound.length; at += HOP) {
    for (let i = 0; i < SIZE; i++) input[i] = WINDOW[i] * sound[at + i]
    const spectrum = new Float64Array(2 * SIZE)
    fft.realTransform(spectrum as unknown as number[], input)
    out.push(spectrum.subarray(0, SIZE))
  }
  return out
}

/** Loudness of a whole sound, in LUFS. */
export function loudnessOf(sound: Float32Array): number {
  const ear = new Ear(1, false)
  ear.add([sound])
  return ear.finish().loudness.integrated
}

/** How far third octaves of two passages lie apart while somebody speaks, in dB, on average from 100 Hz to 8 kHz. */
export function thirdsApart(a: Float32Array, b: Float32Array): number {
  const [one, other] = [a, b].map((sound) => thirdsOf(Float64Array.from(sound)).slice(2, 22))
  return one.reduce((sum, level, i) => sum + Math.abs(level - other[i]), 0) / one.length
}
