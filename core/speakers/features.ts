import FFT from 'fft.js'
import { RATE, type Frames } from '../time'

/**
 * What a voice sounds like, a look every 10 ms: mel-frequency cepstral coefficients (Davis and
 * Mermelstein 1980), without the one that is only loudness.
 */

export const LOOK: Frames = RATE / 100
export const COEFFICIENTS = 14
const SIZE = 2048
const WINDOW = 1200
const BANDS = 28
const [LOW, HIGH] = [100, 7200]
const FLOOR = 1e-10

const mel = (hertz: number) => 2595 * Math.log10(1 + hertz / 700)
const hertz = (value: number) => 700 * (10 ** (value / 2595) - 1)

/** Triangles on the mel scale: of each band its bins and their weights. */
const TRIANGLES = Array.from({ length: BANDS }, (_, band) => {
  const at = (i: number) => hertz(mel(LOW) + ((mel(HIGH) - mel(LOW)) * i) / (BANDS + 1))
  const [from, peak, to] = [at(band), at(band + 1), at(band + 2)]
  const bins: { bin: number; weight: number }[] = []
  for (let bin = Math.ceil((from * SIZE) / RATE); bin <= (to * SIZE) / RATE; bin++) {
    const f = (bin * RATE) / SIZE
    bins.push({ bin, weight: f < peak ? (f - from) / (peak - from) : (to - f) / (to - peak) })
  }
  return bins
})
const COSINES = Array.from({ length: COEFFICIENTS }, (_, k) =>
  Float64Array.from({ length: BANDS }, (__, band) => Math.cos((Math.PI * (k + 1) * (band + 0.5)) / BANDS)),
)

export interface VoiceLooks {
  count: number
  /** `COEFFICIENTS` values a look. */
  values: Float32Array
  /** Level of each look in dB. */
  level: Float32Array
}

/** Takes sound block by block, so that a tape of any length can be looked at. */
export class VoiceFeatures {
  private readonly fft = new FFT(SIZE)
  private readonly window = Float64Array.from({ length: WINDOW }, (_, i) => 0.54 - 0.46 * Math.cos((2 * Math.PI * i) / (WINDOW - 1)))
  private readonly input = new Float64Array(SIZE)
  private readonly out = new Float64Array(2 * SIZE)
  private rest = new Float32Array(0)
  private readonly values: Float32Array[] = []
  private readonly levels: number[] = []

  add(sound: Float32Array): void {
    const all = new Float32Array(this.rest.length + sound.length)
    all.set(this.rest)
    all.set(sound, this.rest.length)
    let at = 0
    for (; at + WINDOW <= all.length; at += LOOK) this.look(all, at)
    this.rest = all.slice(at)
  }

  private look(all: Float32Array, at: number): void {
    const { input, out, window } = this
    let power = 0
    for (let i = 0; i < WINDOW; i++) {
      const sample = all[at + i]
      power += sample * sample
      // what a voice has at the top is weak: it is raised, so that it counts
      input[i] = (sample - 0.95 * (i ? all[at + i - 1] : sample)) * window[i]
    }
    this.fft.realTransform(out as unknown as number[], input)
    const bands = TRIANGLES.map((bins) =>
      Math.log(bins.reduce((sum, { bin, weight }) => sum + weight * (out[2 * bin] ** 2 + out[2 * bin + 1] ** 2), FLOOR)),
    )
    this.values.push(Float32Array.from(COSINES, (cosines) => cosines.reduce((sum, cosine, band) => sum + cosine * bands[band], 0) / BANDS))
    this.levels.push(10 * Math.log10(power / WINDOW + FLOOR))
  }

  finish(): VoiceLooks {
    const values = new Float32Array(this.values.length * COEFFICIENTS)
    this.values.forEach((look, i) => values.set(look, i * COEFFICIENTS))
    return { count: this.values.length, values, level: Float32Array.from(this.levels) }
  }
}
