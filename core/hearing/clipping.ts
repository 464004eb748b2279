import { milliseconds, type Frames, type Stretch } from '../time'
import type { Tops } from './levels'

/** As many samples on one height make a flat top; no wave that sounds has one near full scale. */
const FLAT = 4
/** One step of 16 bits, and a little for what was computed since. */
const STEP = 1.2 / 32768
const HIGH = 10 ** (-3 / 20)
const OVER = 1.0001
/** Places that lie closer belong together. */
const APART: Frames = milliseconds(50)
const MOST = 500

/**
 * Finds where a recording was clipped: flat tops near full scale, and, where `overs` says that the
 * wave was resampled or coded since (which bends flat tops), runs beyond full scale.
 */
export class Clipping {
  /** The first places of all, in order. */
  readonly places: Stretch[] = []
  count = 0
  private at: Frames = 0
  private run = 1
  private last = 0

  constructor(private readonly overs: boolean) {}

  /** Takes samples, and the highest of each bin of them. */
  add(samples: Float32Array, { ends, heights, count }: Tops): void {
    for (let bin = 0, from = 0; bin < count; from = ends[bin++]) {
      if (heights[bin] > HIGH) this.look(samples, from, ends[bin])
      else this.run = 1
    }
    this.last = samples[samples.length - 1] ?? this.last
    this.at += samples.length
  }

  private look(samples: Float32Array, from: number, end: number): void {
    let { run } = this
    let last = from ? samples[from - 1] : this.last
    for (let i = from; i < end; i++) {
      const sample = samples[i]
      if (sample > HIGH || sample < -HIGH) {
        const step = sample - last
        if (step <= STEP && step >= -STEP) run++
        else run = 1
        if (run === FLAT || (this.overs && (sample > OVER || sample < -OVER))) this.found(this.at + i)
        else if (run > FLAT && this.places.length) this.extend(this.at + i)
      } else run = 1
      last = sample
    }
    this.run = run
  }

  private found(at: Frames): void {
    if (this.count && at - this.end < APART) return this.extend(at)
    this.count++
    this.end = at + 1
    if (this.places.length < MOST) this.places.push({ from: at - FLAT + 1, to: at + 1 })
  }

  private end: Frames = 0
  private extend(at: Frames): void {
    this.end = at + 1
    if (this.count === this.places.length)
      this.places[this.places.length - 1] = { from: this.places[this.places.length - 1].from, to: at + 1 }
  }
}
