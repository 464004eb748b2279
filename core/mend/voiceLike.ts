import { random } from '../sound/random'
import { RATE } from '../time'

/** A voice for tests, the same each time: bursts of gliding harmonics, with pauses, over a very quiet room. */
export function voiceLike(seconds: number, seed = 3): Float64Array {
  const next = random(seed)
  let phase = 0
  return Float64Array.from({ length: seconds * RATE }, (_, i) => {
    const t = i / RATE
    phase += (2 * Math.PI * (128 + 24 * Math.sin(2.1 * t) + 9 * Math.sin(7.3 * t))) / RATE
    let voice = 0
    for (let k = 1; k <= 20; k++) voice += Math.sin(k * phase + k * k) / k
    const swell = Math.max(0, Math.sin((2 * Math.PI * t) / 1.2))
    return 0.1 * Math.sqrt(swell) * voice + 0.0006 * (next() - 0.5)
  })
}

/** White noise of so much RMS, for tests. */
export function hissOf(length: number, rms: number, seed = 9): Float64Array {
  const next = random(seed)
  return Float64Array.from({ length }, () => (next() - 0.5) * rms * Math.sqrt(12))
}

/** The level of `[from, to)`, in dBFS. */
export function dBFS(samples: Float64Array, begin = 0, end = samples.length): number {
  const [from, to] = [Math.round(begin), Math.round(end)]
  let sum = 0
  for (let i = from; i < to; i++) sum += samples[i] * samples[i]
  return 10 * Math.log10(sum / (to - from) + 1e-20)
}

export const less = (a: Float64Array, b: Float64Array): Float64Array => a.map((sample, i) => sample - b[i])
