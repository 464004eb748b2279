import FFT from 'fft.js'
import { hann } from '../../sound/window'
import { RATE, type Frames } from '../../time'

/**
 * What finders look at, every 10 ms of one side: levels in bands, what lies below speech, and whether a voice rings and how
 * high. Everything comes in blocks of any size, so that a tape of any length can be listened to.
 */

/** Frames from one look to the next. */
export const LOOK: Frames = RATE / 100
export const BANDS = 20
/** Hz, between which the bands lie, evenly on the mel scale. */
const [LOWEST, HIGHEST] = [90, 10_000]
const SIZE = 1024
const WINDOW = hann(SIZE, 0.5)

/** The pitch is looked for with a fourth of the samples, in a window of 43 ms, which holds three waves of the lowest voice. */
const FEWER = 4
const PITCH_SIZE = 512
const PITCH_WINDOW = hann(PITCH_SIZE, 0.5)
const PITCH_RATE = RATE / FEWER
/** A look is made of what lies so far to either side of its middle. */
const REACH: Frames = (PITCH_SIZE * FEWER) / 2
const [DEEPEST, TALLEST] = [65, 420]
/** What lies above this is breath and hiss, in Hz. */
const RINGS_BELOW = 2500

const FLOOR = 1e-12
/** What a thump pushes lies below this, and below the deepest voices, in Hz. */
const LOW_END = 65

const mel = (hertz: number) => 2595 * Math.log10(1 + hertz / 700)
const hertz = (value: number) => 700 * (10 ** (value / 2595) - 1)

/** The first bin of each band, and where the last one ends. */
const EDGES = Array.from({ length: BANDS + 1 }, (_, i) =>
  Math.round((hertz(mel(LOWEST) + ((mel(HIGHEST) - mel(LOWEST)) * i) / BANDS) * SIZE) / RATE),
)
for (let i = 1; i <= BANDS; i++) EDGES[i] = Math.max(EDGES[i], EDGES[i - 1] + 1)

/** How many bins of the window each band adds up. */
export const BAND_BINS = EDGES.slice(1).map((edge, i) => edge - EDGES[i])

/** Hz in the middle of each band. */
export const BAND_HERTZ = EDGES.slice(0, BANDS).map((edge, i) => (((edge + EDGES[i + 1]) / 2) * RATE) / SIZE)

export interface Looks {
  count: number
  /** `BANDS` levels a look, in dB. */
  bands: Float32Array
  /** Mean level of a look above the low end, and in it, dBFS. */
  level: Float32Array
  low: Float32Array
  /** How much of a look repeats from wave to wave, 0 to 1, and how often a second; 0 where nothing does. */
  ringing: Float32Array
  pitch: Float32Array
}

/** A Butterworth low pass of the second order, twice, by the bilinear transform. */
const LOW = (() => {
  const k = Math.tan((Math.PI * LOW_END) / RATE)
  const norm = 1 / (1 + Math.SQRT2 * k + k * k)
  return { b0: k * k * norm, a1: 2 * (k * k - 1) * norm, a2: (1 - Math.SQRT2 * k + k * k) * norm }
})()

/** How alike a window is to itself, later by so much: what ringing is held against (Boersma 1993). */
const ALIKE = (() => {
  const own = Float64Array.from({ length: PITCH_SIZE }, (_, lag) => {
    let sum = 0
    for (let i = 0; i + lag < PITCH_SIZE; i++) sum += PITCH_WINDOW[i] * PITCH_WINDOW[i + lag]
    return sum
  })
  return own.map((value) => value / own[0])
})()

class Growing {
  values = new Float32Array(4096)
  count = 0

  push(value: number): void {
    if (this.count === this.values.length) {
      const more = new Float32Array(2 * this.count)
      more.set(this.values)
      this.values = more
    }
    this.values[this.count++] = value
  }

  finish = (): Float32Array => this.values.slice(0, this.count)
}

export class Looking {
  private readonly fft = new FFT(SIZE)
  private readonly input = new Float64Array(SIZE)
  private readonly out = new Float64Array(2 * SIZE)
  private readonly power = new Float64Array(SIZE)
  /** Half a window, less half a look, lies before the first one. */
  private rest = new Float32Array(REACH - LOOK / 2)
  private readonly lowRest: number[] = []
  private readonly state = new Float64Array(4)
  private readonly bands = new Growing()
  private readonly level = new Growing()
  private readonly low = new Growing()
  private readonly ringing = new Growing()
  private readonly pitch = new Growing()
  private frames = 0

  add(sound: Float32Array): void {
    this.frames += sound.length
    const all = new Float32Array(this.rest.length + sound.length)
    all.set(this.rest)
    all.set(sound, this.rest.length)
    let at = 0
    for (; at + 2 * REACH <= all.length; at += LOOK) this.look(all, at)
    this.rest = all.slice(at)
    this.thump(sound)
  }

  finish(): Looks {
    const wanted = Math.ceil(this.frames / LOOK)
    const all = new Float32Array(this.rest.length + 2 * REACH + LOOK)
    all.set(this.rest)
    for (let at = 0; this.level.count < wanted && at + 2 * REACH <= all.length; at += LOOK) this.look(all, at)
    const low = this.low.finish()
    return {
      count: this.level.count,
      bands: this.bands.finish(),
      level: this.level.finish(),
      low: Float32Array.from({ length: this.level.count }, (_, i) => low[i] ?? -120),
      ringing: this.ringing.finish(),
      pitch: this.pitch.finish(),
    }
  }

  private look(all: Float32Array, at: number): void {
    const { input, out } = this
    for (let i = 0; i < SIZE; i++) input[i] = all[at + REACH - SIZE / 2 + i] * WINDOW[i]
    this.fft.realTransform(out as unknown as number[], input)
    let sum = 0
    for (let band = 0; band < BANDS; band++) {
      let power = 0
      for (let bin = EDGES[band]; bin < EDGES[band + 1]; bin++) power += out[2 * bin] ** 2 + out[2 * bin + 1] ** 2
      sum += power
      this.bands.push(10 * Math.log10((SCALE * power) / (EDGES[band + 1] - EDGES[band]) + FLOOR))
    }
    const level = 10 * Math.log10(SCALE * sum + FLOOR)
    this.level.push(level)
    const { ringing, pitch } = level < -80 ? SILENT : this.rings(all, at)
    this.ringing.push(ringing)
    this.pitch.push(pitch)
  }

  /** Ringing and pitch by the autocorrelation of what lies below 2.5 kHz, around the middle of a look. */
  private rings(all: Float32Array, at: number): { ringing: number; pitch: number } {
    const { input, out, power } = this
    input.fill(0)
    for (let i = 0; i < PITCH_SIZE; i++) {
      const from = at + FEWER * i
      input[i] = (all[from] + all[from + 1] + all[from + 2] + all[from + 3]) * PITCH_WINDOW[i]
    }
    this.fft.realTransform(out as unknown as number[], input)
    power.fill(0)
    const top = Math.round((RINGS_BELOW * SIZE) / PITCH_RATE)
    for (let bin = 2; bin < top; bin++) {
      const one = out[2 * bin] ** 2 + out[2 * bin + 1] ** 2
      power[bin] = one
      power[SIZE - bin] = one
    }
    this.fft.realTransform(out as unknown as number[], power)
    if (out[0] <= 0) return SILENT
    let [best, lag] = [0, 0]
    for (let k = Math.floor(PITCH_RATE / TALLEST); k <= PITCH_RATE / DEEPEST; k++) {
      const here = out[2 * k]
      if (here < out[2 * k - 2] || here < out[2 * k + 2]) continue
      // of two that are as good the higher one is the voice
      const value = here / (out[0] * ALIKE[k]) - 0.0004 * k
      if (value > best) [best, lag] = [value, k]
    }
    if (!lag) return SILENT
    const [left, middle, right] = [out[2 * lag - 2], out[2 * lag], out[2 * lag + 2]]
    const between = (left - right) / (2 * (left - 2 * middle + right) || 1)
    return { ringing: Math.min(1, best), pitch: PITCH_RATE / (lag + between) }
  }

  /** The low end of each look, by a filter, which is sharper down there than any window of a look. */
  private thump(sound: Float32Array): void {
    const { b0, a1, a2 } = LOW
    const { state } = this
    let [s0, s1, s2, s3] = state
    let [sum, count] = this.lowRest.length ? this.lowRest : [0, 0]
    for (let i = 0; i < sound.length; i++) {
      const x = sound[i]
      const once = b0 * x + s0
      s0 = 2 * b0 * x - a1 * once + s1
      s1 = b0 * x - a2 * once
      const twice = b0 * once + s2
      s2 = 2 * b0 * once - a1 * twice + s3
      s3 = b0 * once - a2 * twice
      sum += twice * twice
      if (++count === LOOK) {
        this.low.push(10 * Math.log10(sum / LOOK + FLOOR))
        sum = count = 0
      }
    }
    state.set([s0, s1, s2, s3].map((one) => (Math.abs(one) < 1e-30 ? 0 : one)))
    this.lowRest.splice(0, 2, sum, count)
  }
}

const SILENT = { ringing: 0, pitch: 0 }
/** A full-scale sine comes to -3 dB: Hann's window passes 3/8 of the power. */
const SCALE = 2 / (SIZE * SIZE * 0.375)
