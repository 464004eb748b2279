import { PEAK_LEVELS, PeakBuilder } from '../sound/peaks'
import { RATE, type Frames } from '../time'

/** Frames of one look: 20 ms. */
export const LOOK: Frames = RATE / 50
/** What is below this is a gap in the recording and no room, in dBFS. */
export const DIGITAL_SILENCE = -84
/** Frames of one step of a loudness reading: a tenth of a second. */
export const STEP: Frames = RATE / 10
const LOOKS_A_STEP = STEP / LOOK
/** Frames of a bin of the finest peaks, of which looks hold a whole number. */
const BIN = PEAK_LEVELS[0]
const BINS_A_LOOK = LOOK / BIN

/** Where speech lies is looked at with a fourth of the samples: the mean of four passes it to some 5 kHz. */
const FEWER = 4

/** A Butterworth high pass of the second order, by the bilinear transform, for what lies below speech. */
const HIGH = (() => {
  const k = Math.tan((Math.PI * 200) / (RATE / FEWER))
  const norm = 1 / (1 + Math.SQRT2 * k + k * k)
  return { b0: norm, b1: -2 * norm, a1: 2 * (k * k - 1) * norm, a2: (1 - Math.SQRT2 * k + k * k) * norm }
})()

const STATES = 6

/** Places in the sums that are carried from one stretch to the next. */
const [SQUARES, BAND, WEIGHTED, LOW, HIGH_SAMPLE] = [0, 1, 2, 3, 4]

/** The highest of each bin, as its samples came: where nothing is high nothing need be looked for. */
export interface Tops {
  /** Where the part of each bin that came ends, and its highest sample so far, either way. */
  ends: Int32Array
  heights: Float32Array
  count: number
}

/**
 * The levels of one channel as it comes, in one walk over it, in mean squares of full scale: of each
 * look all of it (`all`) and the band where speech lies, some 200 Hz to 5 kHz (`band`); of each step
 * K-weighted by ITU-R BS.1770-5, Annex 1, a high shelf for the head and a high pass, at 48 kHz
 * (`powers`). The same walk gives the peaks that are drawn.
 */
export class Levels {
  readonly all: number[] = []
  readonly band: number[] = []
  readonly powers: number[] = []
  readonly peaks = new PeakBuilder()
  private readonly state = new Float64Array(STATES)
  private readonly sums = Float64Array.of(0, 0, 0, Infinity, -Infinity)
  private readonly tops: Tops = { ends: new Int32Array(0), heights: new Float32Array(0), count: 0 }
  /** Samples of the bin and bins of the look that are there, looks of the step, and their sums. */
  private count = 0
  private bins = 0
  private looks = 0
  private squares = 0
  private weighted = 0
  private four = 0

  /** Takes samples; what it gives holds until it is asked again. */
  add(samples: Float32Array): Tops {
    const { tops, sums } = this
    const most = Math.ceil(samples.length / BIN) + 1
    if (tops.ends.length < most) {
      tops.ends = new Int32Array(most)
      tops.heights = new Float32Array(most)
    }
    tops.count = 0
    for (let i = 0; i < samples.length;) {
      const end = Math.min(samples.length, i + BIN - this.count)
      weigh(samples, i, end, this.state, sums)
      this.pass(samples, i, end)
      tops.ends[tops.count] = end
      tops.heights[tops.count++] = Math.max(-sums[LOW], sums[HIGH_SAMPLE])
      this.count += end - i
      i = end
      if (this.count === BIN) this.closeBin()
    }
    return tops
  }

  /** The end of the sound. */
  finish(): void {
    if (this.count) this.peaks.bin(this.sums[LOW], this.sums[HIGH_SAMPLE], this.sums[SQUARES] / this.count)
    this.peaks.finish()
  }

  /** The band where speech lies; fours go on from one stretch to the next. */
  private pass(samples: Float32Array, from: number, to: number): void {
    let i = from
    for (let at = this.count % FEWER; at && i < to; at = (at + 1) % FEWER) {
      this.four += samples[i++]
      if (at === FEWER - 1) this.passFour()
    }
    const whole = i + Math.floor((to - i) / FEWER) * FEWER
    if (whole > i) passFours(samples, i, whole, this.state, this.sums)
    for (i = whole; i < to; i++) this.four += samples[i]
  }

  private passFour(): void {
    passFours(Float32Array.of(this.four, 0, 0, 0), 0, FEWER, this.state, this.sums)
    this.four = 0
  }

  private closeBin(): void {
    const { sums } = this
    this.peaks.bin(sums[LOW], sums[HIGH_SAMPLE], sums[SQUARES] / BIN)
    this.squares += sums[SQUARES]
    sums[SQUARES] = 0
    sums[LOW] = Infinity
    sums[HIGH_SAMPLE] = -Infinity
    this.count = 0
    if (++this.bins === BINS_A_LOOK) this.closeLook()
  }

  private closeLook(): void {
    const { sums, state } = this
    this.all.push(this.squares / LOOK)
    this.band.push(sums[BAND] / (LOOK / FEWER))
    this.weighted += sums[WEIGHTED]
    this.squares = sums[BAND] = sums[WEIGHTED] = this.bins = 0
    if (++this.looks === LOOKS_A_STEP) {
      this.powers.push(this.weighted / STEP)
      this.weighted = this.looks = 0
    }
    // what is smaller than any sound only slows the next samples down
    for (let k = 0; k < STATES; k++) if (Math.abs(state[k]) < 1e-30) state[k] = 0
  }
}

/** K-weighting over a stretch, in transposed form; adds the squares of what goes in and of what comes out, and widens the extremes. */
function weigh(samples: Float32Array, from: number, to: number, state: Float64Array, sums: Float64Array): void {
  let s0 = state[0]
  let s1 = state[1]
  let s2 = state[2]
  let s3 = state[3]
  // carried on, so that rounding is the same however the samples come
  let all = sums[0]
  let weighted = sums[2]
  let low = sums[3]
  let high = sums[4]
  for (let i = from; i < to; i++) {
    const x = samples[i]
    all += x * x
    if (x < low) low = x
    if (x > high) high = x
    const shelf = 1.53512485958697 * x + s0
    s0 = -2.69169618940638 * x + 1.69065929318241 * shelf + s1
    s1 = 1.19839281085285 * x - 0.73248077421585 * shelf
    const passed = shelf + s2
    s2 = -2 * shelf + 1.99004745483398 * passed + s3
    s3 = shelf - 0.99007225036621 * passed
    weighted += passed * passed
  }
  state[0] = s0
  state[1] = s1
  state[2] = s2
  state[3] = s3
  sums[0] = all
  sums[2] = weighted
  sums[3] = low
  sums[4] = high
}

/** The band where speech lies, of whole fours. */
function passFours(samples: Float32Array, from: number, to: number, state: Float64Array, sums: Float64Array): void {
  const { b0, b1, a1, a2 } = HIGH
  let s4 = state[4]
  let s5 = state[5]
  let band = sums[1]
  for (let i = from; i < to; i += FEWER) {
    const x = (samples[i] + samples[i + 1] + samples[i + 2] + samples[i + 3]) / FEWER
    const high = b0 * x + s4
    s4 = b1 * x - a1 * high + s5
    s5 = b0 * x - a2 * high
    band += high * high
  }
  state[4] = s4
  state[5] = s5
  sums[1] = band
}
