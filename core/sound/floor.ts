import FFT from 'fft.js'
import type { Frames } from '../time'
import { random } from './random'
import { hann } from './window'

const SIZE = 2048

/** Gathers the noise floor's spectrum of a sound: in each band the quiet end of what was heard there. */
export class FloorSpectrum {
  private readonly fft = new FFT(SIZE)
  private readonly frames: Float32Array[] = []
  private readonly window = hann(SIZE)

  /** Takes one stretch of SIZE frames or more; only its first SIZE are looked at. Call it some hundred times, spread over the tape. */
  look(samples: Float32Array): void {
    if (samples.length < SIZE) return
    const input = Array.from<number>({ length: SIZE })
    for (let i = 0; i < SIZE; i++) input[i] = samples[i] * this.window[i]
    const out = this.fft.createComplexArray() as number[]
    this.fft.realTransform(out, input)
    const power = new Float32Array(SIZE / 2)
    for (let bin = 0; bin < SIZE / 2; bin++) power[bin] = out[2 * bin] ** 2 + out[2 * bin + 1] ** 2
    if (power.some((value) => value > 0)) this.frames.push(power)
  }

  /**
   * Noise with that spectrum, without end or beginning: from a fixed seed, `length` frames.
   * Each band lies at the tenth part of its looks, raised to the mean of noise of that tenth.
   */
  tone(length: Frames, seed: number): Float32Array {
    const power = new Float32Array(SIZE / 2)
    for (let bin = 0; bin < power.length; bin++) {
      const heard = this.frames.map((frame) => frame[bin]).sort((a, b) => a - b)
      // the tenth part of exponentially distributed power lies at 0.105 of its mean
      power[bin] = heard.length ? heard[Math.floor(heard.length / 10)] / 0.105 : 0
    }
    return shapedNoise(this.fft, power, length, seed)
  }
}

function shapedNoise(fft: FFT, power: Float32Array, length: Frames, seed: number): Float32Array {
  const next = random(seed)
  const out = new Float32Array(length)
  const window = Float32Array.from(hann(SIZE))
  const hop = SIZE / 2
  const spectrum = fft.createComplexArray() as number[]
  const time = fft.createComplexArray() as number[]
  for (let at = -hop; at < length; at += hop) {
    spectrum.fill(0)
    for (let bin = 1; bin < SIZE / 2; bin++) {
      const phase = next() * 2 * Math.PI
      // the analysis window took 3/8 of the power; two overlapping square-root windows keep it
      const size = Math.sqrt(power[bin] / 0.375)
      spectrum[2 * bin] = size * Math.cos(phase)
      spectrum[2 * bin + 1] = size * Math.sin(phase)
    }
    fft.completeSpectrum(spectrum)
    fft.inverseTransform(time, spectrum)
    for (let i = 0; i < SIZE; i++) {
      const frame = at + i
      if (frame >= 0 && frame < length) out[frame] += time[2 * i] * Math.sqrt(window[i])
    }
  }
  return out
}
