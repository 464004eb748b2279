import FFT from 'fft.js'
import { milliseconds, type Frames } from '../time'
import { hann } from '../sound/window'

/** How the sound of a stretch changes, looked at every 2 ms. */

export const LOOK_STEP: Frames = milliseconds(2)
const SIZE = 512
/** Of the spectrum's bins, 94 Hz each, where one band ends and the next begins; rumble stays out. */
const EDGES = [1, 2, 4, 6, 8, 11, 15, 20, 27, 36, 48, 64, 85]
export const BANDS = EDGES.length - 1
const FLOOR = 1e-9
/** The level is that of so many frames around a look, without what lies below some 90 Hz. */
const AROUND: Frames = milliseconds(8)
const HIGH_PASS = 0.988

export class SoundLooks {
  readonly count: number
  private readonly fft = new FFT(SIZE)
  private readonly window = hann(SIZE, 0.5)
  private readonly input = new Float64Array(SIZE)
  private readonly out = new Float64Array(2 * SIZE)
  private readonly bandsAt = new Map<number, Float32Array>()
  /** Level in dB of each look; the one at index `i` is centred on frame `i * LOOK_STEP`. */
  readonly level: Float32Array

  constructor(private readonly sound: Float32Array) {
    this.count = Math.max(0, Math.floor(sound.length / LOOK_STEP))
    this.level = levels(sound, this.count)
  }

  /** The level in dB in bands a third of an octave to an octave wide, around a look. */
  bands(look: number): Float32Array {
    let found = this.bandsAt.get(look)
    if (!found) {
      found = this.measured(look)
      this.bandsAt.set(look, found)
    }
    return found
  }

  private measured(look: number): Float32Array {
    const { sound, input, out, window } = this
    const start = look * LOOK_STEP - SIZE / 2
    for (let k = 0; k < SIZE; k++) {
      const at = start + k
      input[k] = at >= 0 && at < sound.length ? sound[at] * window[k] : 0
    }
    this.fft.realTransform(out as unknown as number[], input)
    return Float32Array.from({ length: BANDS }, (_, band) => {
      let power = 0
      for (let bin = EDGES[band]; bin < EDGES[band + 1]; bin++) power += out[2 * bin] ** 2 + out[2 * bin + 1] ** 2
      return 10 * Math.log10(power / SIZE + FLOOR)
    })
  }
}

function levels(sound: Float32Array, count: number): Float32Array {
  const powers = new Float64Array(count + 1)
  let last = 0
  let high = 0
  for (let i = 0; i < count * LOOK_STEP; i++) {
    high = HIGH_PASS * (high + sound[i] - last)
    last = sound[i]
    powers[Math.floor(i / LOOK_STEP)] += high * high
  }
  const each = AROUND / LOOK_STEP / 2
  return Float32Array.from({ length: count }, (_, i) => {
    let power = 0
    for (let k = Math.max(0, i - each); k < Math.min(count, i + each); k++) power += powers[k]
    return 10 * Math.log10(power / AROUND + FLOOR)
  })
}
