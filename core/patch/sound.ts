import FFT from 'fft.js'
import { RATE, type Frames } from '../time'
import { hann } from '../sound/window'

/** A tape's sound as what patches are looked for in: levels in bands of the mel scale, every 10 ms. */

export const PATCH_STEP: Frames = RATE / 100
export const BANDS = 18
const SIZE = 1024
const [LOW, HIGH] = [80, 8000]
const FLOOR = 1e-9

const mel = (hertz: number) => 2595 * Math.log10(1 + hertz / 700)
/** Of the spectrum's bins, 47 Hz each, where one band ends and the next begins. */
const EDGES = Array.from({ length: BANDS + 1 }, (_, i) => {
  const at = mel(LOW) + ((mel(HIGH) - mel(LOW)) * i) / BANDS
  return Math.round((700 * (10 ** (at / 2595) - 1) * SIZE) / RATE)
}).map((edge, i, all) => Math.max(edge, i ? all[0] + i : 0))

export interface Looks {
  count: number
  /** `BANDS` levels in dB a look; the look at index `i` is centred on frame `i * PATCH_STEP`. */
  values: Float32Array
  /** The mean of each look's levels, in dB. */
  means: Float32Array
}

export function looksFrom(values: Float32Array): Looks {
  const count = Math.floor(values.length / BANDS)
  const means = new Float32Array(count)
  for (let look = 0; look < count; look++) {
    let sum = 0
    for (let band = 0; band < BANDS; band++) sum += values[look * BANDS + band]
    means[look] = sum / BANDS
  }
  return { count, values, means }
}

/** Takes sound block by block, so that a tape of any length can be looked at. */
export class LooksOf {
  private readonly fft = new FFT(SIZE)
  private readonly window = hann(SIZE, 0.5)
  private readonly input = new Float64Array(SIZE)
  private readonly out = new Float64Array(2 * SIZE)
  /** Begins half a window before the first frame, so that the first look is centred on it. */
  private rest = new Float32Array(SIZE / 2)
  private values = new Float32Array(1 << 14)
  private count = 0

  add(sound: Float32Array): void {
    const all = new Float32Array(this.rest.length + sound.length)
    all.set(this.rest)
    all.set(sound, this.rest.length)
    let at = 0
    for (; at + SIZE <= all.length; at += PATCH_STEP) this.look(all, at)
    this.rest = all.slice(at)
  }

  private look(all: Float32Array, at: number): void {
    const { input, out, window } = this
    for (let i = 0; i < SIZE; i++) input[i] = all[at + i] * window[i]
    this.fft.realTransform(out as unknown as number[], input)
    if ((this.count + 1) * BANDS > this.values.length) {
      const more = new Float32Array(2 * this.values.length)
      more.set(this.values)
      this.values = more
    }
    for (let band = 0; band < BANDS; band++) {
      let power = 0
      for (let bin = EDGES[band]; bin < EDGES[band + 1]; bin++) power += out[2 * bin] ** 2 + out[2 * bin + 1] ** 2
      this.values[this.count * BANDS + band] = 10 * Math.log10(power / SIZE + FLOOR)
    }
    this.count++
  }

  finish(): Looks {
    this.add(new Float32Array(SIZE / 2))
    return looksFrom(this.values.subarray(0, this.count * BANDS))
  }
}

export function looksOf(sound: Float32Array): Looks {
  const looks = new LooksOf()
  looks.add(sound)
  return looks.finish()
}
