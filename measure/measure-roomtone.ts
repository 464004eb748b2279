import FFT from 'fft.js'
import { planOf, type TapeFacts } from '../core/render/plan'
import { random } from '../core/sound/random'
import { renderer } from '../core/render/render'
import { RATE, toFrames, type Frames } from '../core/time'
import { report } from './figure'

/** Ten seconds of room tone from one second of quiet, in ten made-up rooms. */

const measure = 'roomtone'
const SECONDS = 10

interface Room {
  name: string
  /** How much of each next frame is the last one: 0 is white, near 1 is dull. */
  dull: number
  /** A second, brighter hiss; and hums, in hertz. */
  hiss: number
  hums: readonly [hertz: number, level: number][]
  /** How much it swells, and how often a second. */
  swell: [share: number, hertz: number]
}

const ROOMS: Room[] = [
  {
    name: 'kitchen',
    dull: 0.98,
    hiss: 0.02,
    hums: [
      [50, 0.4],
      [150, 0.1],
    ],
    swell: [0, 1],
  },
  { name: 'office', dull: 0.93, hiss: 0.1, hums: [[120, 0.1]], swell: [0, 1] },
  { name: 'harbour wall', dull: 0.99, hiss: 0.05, hums: [], swell: [0.3, 0.7] },
  { name: 'cupboard', dull: 0.6, hiss: 0, hums: [], swell: [0, 1] },
  {
    name: 'ferry',
    dull: 0.985,
    hiss: 0.03,
    hums: [
      [38, 0.8],
      [76, 0.5],
      [114, 0.2],
    ],
    swell: [0.05, 1.3],
  },
  { name: 'church', dull: 0.97, hiss: 0.01, hums: [], swell: [0.1, 0.3] },
  { name: 'car', dull: 0.99, hiss: 0.08, hums: [[82, 0.3]], swell: [0.1, 0.5] },
  { name: 'studio', dull: 0.3, hiss: 0, hums: [[50, 0.02]], swell: [0, 1] },
  { name: 'beach', dull: 0.8, hiss: 0.4, hums: [], swell: [0.3, 0.25] },
  { name: 'call', dull: 0.5, hiss: 0.1, hums: [[100, 0.2]], swell: [0, 1] },
]

function sound({ dull, hiss, hums, swell }: Room, seconds: number, seed: number): Float32Array {
  const next = random(seed)
  let low = 0
  return Float32Array.from({ length: toFrames(seconds) }, (_, i) => {
    const t = i / RATE
    low = dull * low + (1 - dull) * (next() - 0.5)
    const noise = low / Math.sqrt((1 - dull) / (1 + dull)) + hiss * (next() - 0.5)
    const tones = hums.reduce((sum, [hertz, level]) => sum + level * 0.3 * Math.sin(2 * Math.PI * hertz * t), 0)
    return 0.004 * (noise * (1 + swell[0] * Math.sin(2 * Math.PI * swell[1] * t)) + tones)
  })
}

/** Ten seconds as a piece holds time with them. */
function tone(source: Float32Array): Float32Array {
  const facts: TapeFacts = {
    id: 'room',
    frames: toFrames(60),
    sides: [{ name: '', channels: [0] }],
    tone: { sound: 'room', quiet: [{ from: 0, to: source.length }] },
  }
  const out = [new Float32Array(toFrames(SECONDS))]
  const read = (_: string, __: number, from: Frames, to: Frames) =>
    Float32Array.from({ length: to - from }, (_x, i) => source[from + i] ?? 0)
  renderer(
    planOf([{ tape: 'room', from: toFrames(20), to: toFrames(20 + SECONDS), sound: 'tone' }], () => facts),
    read,
  ).pull(0, out)
  return out[0]
}

const SIZE = 1 << 20
const fft = new FFT(SIZE)
/** Normalised autocorrelation at every lag, by the power spectrum. */
function autocorrelation(samples: Float32Array): Float64Array {
  const input = Array.from({ length: SIZE }, (_, i) => samples[i] ?? 0)
  const spectrum = fft.createComplexArray() as number[]
  fft.realTransform(spectrum, input)
  fft.completeSpectrum(spectrum)
  for (let i = 0; i < SIZE; i++) {
    spectrum[2 * i] = spectrum[2 * i] ** 2 + spectrum[2 * i + 1] ** 2
    spectrum[2 * i + 1] = 0
  }
  const out = fft.createComplexArray() as number[]
  fft.inverseTransform(out, spectrum)
  return Float64Array.from({ length: toFrames(5) }, (_, lag) => (out[2 * lag] / out[0]) * (samples.length / (samples.length - lag)))
}
const highest = (correlation: Float64Array): number =>
  correlation.subarray(toFrames(0.2)).reduce((most, value) => Math.max(most, Math.abs(value)), 0)

/** Mean level in third octaves from 50 Hz to 12.5 kHz, in dB. */
function thirds(samples: Float32Array): number[] {
  const input = Array.from({ length: SIZE }, (_, i) => samples[i] ?? 0)
  const spectrum = fft.createComplexArray() as number[]
  fft.realTransform(spectrum, input)
  return Array.from({ length: 25 }, (_, band) => {
    const centre = 50 * 2 ** (band / 3)
    let power = 0
    for (let bin = Math.ceil((centre * 2 ** (-1 / 6) * SIZE) / RATE); bin < (centre * 2 ** (1 / 6) * SIZE) / RATE; bin++)
      power += spectrum[2 * bin] ** 2 + spectrum[2 * bin + 1] ** 2
    return 10 * Math.log10(power / samples.length + 1e-15)
  })
}
const level = (samples: Float32Array): number => 10 * Math.log10(samples.reduce((sum, sample) => sum + sample * sample, 0) / samples.length)

const loops: number[] = []
const spectra: number[] = []
const levels: number[] = []
for (const [i, room] of ROOMS.entries()) {
  const quiet = sound(room, 1, 100 + i)
  // swelling rooms differ from themselves: what the second of quiet was is what its tone is to be
  const whole = sound(room, SECONDS, 200 + i)
  const made = tone(quiet)
  loops.push(Math.max(0, highest(autocorrelation(made)) - highest(autocorrelation(whole))))
  const [a, b] = [thirds(made), thirds(quiet)]
  spectra.push(a.reduce((sum, value, band) => sum + Math.abs(value - b[band]), 0) / a.length)
  levels.push(Math.abs(level(made) - level(quiet)))
  report({
    measure,
    name: `roomtone.${room.name}`,
    value: loops[i],
    unit: `loop; spectrum ${spectra[i].toFixed(2)} dB, level ${levels[i].toFixed(2)} dB`,
  })
}
report({
  measure,
  name: 'roomtone.loop',
  value: Math.max(...loops),
  unit: 'largest normalised autocorrelation from 0.2 to 5 s, beyond the room’s own',
})
report({ measure, name: 'roomtone.spectrum', value: Math.max(...spectra), unit: 'dB, mean third-octave difference, worst room' })
report({ measure, name: 'roomtone.level', value: Math.max(...levels), unit: 'dB, worst room' })
