import { random } from '../core/sound/random'
import { RATE } from './speech'

/** Rooms, weather, lines and music, made by arithmetic from fixed seeds. */

export function noise(length: number, seed: number): Float32Array {
  const next = random(seed)
  return Float32Array.from({ length }, () => next() + next() + next() - 1.5)
}

/** One-pole low pass, in place. */
export function lowPass(samples: Float32Array, hertz: number): Float32Array {
  const a = 1 - Math.exp((-2 * Math.PI * hertz) / RATE)
  let held = 0
  for (let i = 0; i < samples.length; i++) samples[i] = held += a * (samples[i] - held)
  return samples
}

export function highPass(samples: Float32Array, hertz: number): Float32Array {
  const low = lowPass(samples.slice(), hertz)
  for (let i = 0; i < samples.length; i++) samples[i] -= low[i]
  return samples
}

export const rms = (samples: Float32Array): number => Math.sqrt(samples.reduce((sum, x) => sum + x * x, 0) / Math.max(1, samples.length))

/** Brings samples to a level in dBFS (root mean square), in place. */
export function toLevel(samples: Float32Array, dB: number): Float32Array {
  const gain = 10 ** (dB / 20) / Math.max(1e-9, rms(samples))
  for (let i = 0; i < samples.length; i++) samples[i] *= gain
  return samples
}

export function addTo(out: Float32Array, samples: Float32Array, at: number, gain = 1): void {
  for (let i = 0; i < samples.length && at + i < out.length; i++) out[at + i] += samples[i] * gain
}

/** Speech as a room gives it back: a few early echoes and a short tail, each duller than the last. */
export function inRoom(dry: Float32Array, size: number, wet: number, seed: number): Float32Array {
  const out = dry.slice()
  const next = random(seed)
  let echo: Float32Array = dry.slice()
  for (let k = 1; k <= 7; k++) {
    echo = lowPass(echo, 5200 - k * 500)
    const delay = Math.round(RATE * size * (k + next() * 0.8) * 0.006)
    addTo(out, echo.subarray(0, echo.length - delay), delay, (k % 2 ? 1 : -1) * wet * 0.7 ** k)
  }
  return out
}

/** A quay at night: wind that swells, water that laps, a generator a way off, now and then a gull. */
export function quay(length: number, seed: number, gulls: number): Float32Array {
  const wind = lowPass(noise(length, seed), 420)
  const slow = lowPass(noise(length, seed + 1), 0.35)
  const swell = toLevel(slow.slice(), 0)
  for (let i = 0; i < length; i++) wind[i] *= 1 + 0.28 * Math.max(-1, Math.min(1.5, swell[i] * 0.7))
  toLevel(wind, -52)
  const water = highPass(lowPass(noise(length, seed + 2), 1800), 500)
  for (let i = 0; i < length; i++)
    water[i] *= 0.55 + 0.45 * Math.sin((2 * Math.PI * i) / (RATE * 3.7)) * Math.sin((2 * Math.PI * i) / (RATE * 5.3))
  toLevel(water, -57)
  const out = wind
  addTo(out, water, 0)
  addTo(out, toLevel(noise(length, seed + 3), -68), 0)
  for (let i = 0; i < length; i++)
    out[i] += 0.0007 * Math.sin((2 * Math.PI * 49.3 * i) / RATE) + 0.0004 * Math.sin((2 * Math.PI * 147.9 * i) / RATE + 1)
  const next = random(seed + 4)
  for (let g = 0; g < gulls; g++) addTo(out, gull(next), Math.floor(next() * (length - RATE)), 0.012 + 0.01 * next())
  return out
}

function gull(next: () => number): Float32Array {
  const calls = 2 + Math.floor(next() * 3)
  const out = new Float32Array(Math.round(RATE * 0.42 * calls))
  for (let c = 0; c < calls; c++) {
    const length = Math.round(RATE * 0.26)
    let phase = 0
    for (let i = 0; i < length; i++) {
      const t = i / length
      phase += (2 * Math.PI * (1250 + 650 * Math.sin(Math.PI * t) - 200 * t)) / RATE
      out[Math.round(c * RATE * 0.4) + i] =
        Math.sin(Math.PI * t) ** 2 * (Math.sin(phase) + 0.5 * Math.sin(2 * phase) + 0.3 * Math.sin(3 * phase)) * 0.5
    }
  }
  return out
}

export function cough(seed: number): Float32Array {
  const length = Math.round(RATE * 0.34)
  const out = lowPass(highPass(noise(length, seed), 250), 2400)
  for (let i = 0; i < length; i++) {
    const t = i / RATE
    out[i] *= Math.exp(-t * 16) + 0.55 * Math.exp(-((t - 0.2) ** 2) * 900)
  }
  return toLevel(out, -20)
}

/** A telephone's band: 300 to 3400 Hz, with eight-bit companding as ITU-T G.711 (mu-law) does it. */
export function onPhone(samples: Float32Array): Float32Array {
  let out: Float32Array = samples.slice()
  for (let k = 0; k < 3; k++) out = highPass(lowPass(out, 3900), 190)
  for (let i = 0; i < out.length; i++) {
    const x = Math.max(-1, Math.min(1, out[i]))
    const y = (Math.sign(x) * Math.log(1 + 255 * Math.abs(x))) / Math.log(256)
    const q = Math.round(y * 127) / 127
    out[i] = (Math.sign(q) * (256 ** Math.abs(q) - 1)) / 255
  }
  return out
}

/** A short bed in stereo: plucked strings over a low drone, in D minor; begins on its first note. */
export function bed(seconds: number): [Float32Array, Float32Array] {
  const length = Math.round(seconds * RATE)
  const left = new Float32Array(length)
  const right = new Float32Array(length)
  const note = (midi: number) => 440 * 2 ** ((midi - 69) / 12)
  const pattern = [
    50, 57, 62, 65, 64, 62, 57, 53, 48, 55, 60, 64, 62, 60, 55, 52, 46, 53, 58, 62, 60, 58, 53, 50, 45, 52, 57, 61, 64, 61, 57, 52,
  ]
  const beat = 0.42
  for (let n = 0; n * beat < seconds - 1.5; n++) {
    const string = plucked(note(pattern[n % pattern.length] + 12), 2.2, n + 11)
    const pan = 0.5 + 0.3 * Math.sin(n * 1.3)
    addTo(left, string, Math.round(n * beat * RATE), 0.3 * (1 - pan))
    addTo(right, string, Math.round(n * beat * RATE), 0.3 * pan)
  }
  for (let i = 0; i < length; i++) {
    const t = i / RATE
    const swell = Math.min(1, t / 3) * Math.min(1, (seconds - t) / 4)
    const drone = (Math.sin(2 * Math.PI * 73.42 * t) + 0.4 * Math.sin(2 * Math.PI * 110 * t + 0.4 * Math.sin(t))) * 0.035 * swell
    left[i] += drone
    right[i] += drone * 0.9
  }
  return [left, right]
}

/** A plucked string (Karplus and Strong, 1983). */
function plucked(hertz: number, seconds: number, seed: number): Float32Array {
  const period = Math.round(RATE / hertz)
  const line = lowPass(noise(period, seed), 3500)
  const out = new Float32Array(Math.round(seconds * RATE))
  for (let i = 0; i < out.length; i++) {
    const at = i % period
    out[i] = line[at]
    line[at] = 0.497 * (line[at] + line[(at + 1) % period])
  }
  for (let i = 0; i < 2400; i++) out[out.length - 1 - i] *= i / 2400
  return out
}
