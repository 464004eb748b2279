import type { Frames } from '../time'

/**
 * Sound faster or slower at the same pitch: waveform similarity overlap-add (Verhelst and Roelands,
 * ICASSP 1993). Frames of the sound are laid over one another in another rhythm, each taken from
 * where, not far from its place, it best goes on from the one before.
 */

/** What comes out at a time; half of a frame. */
export const STRETCH_BLOCK: Frames = 1024
/** How far from its place a frame may be taken: more than a period of the lowest voice. */
const REACH: Frames = 640
/** Likeness is looked at roughly first, at every so many-th place and sample. */
const COARSE = 4

/** Reads frames `[from, to)` of each channel; silence beyond the ends. What it gives may be used again at the next call. */
export type ReadFrames = (from: Frames, to: Frames) => readonly Float32Array[]

export class Stretcher {
  /** Where the next output lies in the sound. */
  private place: number
  /** Where the last frame was taken. */
  private last: Frames | null = null
  private readonly tails: Float32Array[]
  private readonly template = new Float32Array(STRETCH_BLOCK)
  private readonly mix = new Float32Array(STRETCH_BLOCK + 2 * REACH)

  /** `speed`: frames of the sound to one of the output, 0.25 to 4. */
  constructor(
    private readonly read: ReadFrames,
    private readonly channels: number,
    public speed: number,
    from: Frames,
  ) {
    this.place = from
    this.tails = Array.from({ length: channels }, () => new Float32Array(STRETCH_BLOCK))
  }

  /** Where the next output lies in the sound, in frames, whole or not. */
  get at(): number {
    return this.place
  }

  /** Which frames of the sound the next output is made from. */
  get needs(): { from: Frames; to: Frames } {
    const nominal = Math.round(this.place)
    return { from: Math.min(nominal - REACH, this.last ?? nominal), to: nominal + REACH + 2 * STRETCH_BLOCK }
  }

  /** The next `STRETCH_BLOCK` frames, written into `out`. */
  next(out: readonly Float32Array[]): void {
    const nominal = Math.round(this.place)
    let taken = nominal
    let likeness = 1
    if (this.last !== null) ({ taken, likeness } = this.best(nominal))
    const frame = this.read(taken, taken + 2 * STRETCH_BLOCK)
    for (let channel = 0; channel < this.channels; channel++) {
      const [samples, tail, into] = [frame[channel], this.tails[channel], out[channel]]
      if (this.last === null) into.set(samples.subarray(0, STRETCH_BLOCK))
      else
        for (let i = 0; i < STRETCH_BLOCK; i++) {
          const rise = (i + 0.5) / STRETCH_BLOCK
          const fall = 1 - rise
          // what is alike adds up by its height, what is not by its power
          into[i] = (tail[i] * fall + samples[i] * rise) / Math.sqrt(rise * rise + fall * fall + 2 * rise * fall * likeness)
        }
      tail.set(samples.subarray(STRETCH_BLOCK, 2 * STRETCH_BLOCK))
    }
    this.last = taken
    this.place += STRETCH_BLOCK * this.speed
  }

  /** How the sound would have gone on, fading: `STRETCH_BLOCK` frames written into `out`, where nothing follows. */
  release(out: readonly Float32Array[]): void {
    for (let channel = 0; channel < this.channels; channel++) {
      const tail = this.tails[channel]
      for (let i = 0; i < STRETCH_BLOCK; i++) out[channel][i] = tail[i] * (1 - (i + 0.5) / STRETCH_BLOCK)
      tail.fill(0)
    }
    this.last = null
  }

  /** Near to its place, the frame that is most like how the last one would go on. */
  private best(nominal: Frames): { taken: Frames; likeness: number } {
    const { template, mix } = this
    added(this.read(this.last! + STRETCH_BLOCK, this.last! + 2 * STRETCH_BLOCK), template)
    added(this.read(nominal - REACH, nominal + REACH + STRETCH_BLOCK), mix)
    // where it goes on by itself, if that is within reach; in silence anything is alike
    const onwards = this.last! + STRETCH_BLOCK - (nominal - REACH)
    let best = onwards >= 0 && onwards <= 2 * REACH ? onwards : REACH
    let most = alike(template, mix, best, COARSE) + 1e-6
    for (let lag = 0; lag <= 2 * REACH; lag += COARSE) {
      const found = alike(template, mix, lag, COARSE)
      if (found > most) {
        most = found
        best = lag
      }
    }
    const near = best
    most = alike(template, mix, near, 1) + 1e-6
    for (let lag = Math.max(0, near - COARSE); lag <= Math.min(2 * REACH, near + COARSE); lag++) {
      const found = alike(template, mix, lag, 1)
      if (found > most) {
        most = found
        best = lag
      }
    }
    return { taken: nominal - REACH + best, likeness: Math.min(1, Math.max(0, most)) }
  }
}

function added(channels: readonly Float32Array[], into: Float32Array): void {
  into.set(channels[0].subarray(0, into.length))
  for (let channel = 1; channel < channels.length; channel++) for (let i = 0; i < into.length; i++) into[i] += channels[channel][i]
}

/** Normalised correlation of the template with `mix` from `lag` on, by every `step`-th sample. */
function alike(template: Float32Array, mix: Float32Array, lag: number, step: number): number {
  let product = 0
  let own = 1e-9
  let other = 1e-9
  for (let i = 0; i < STRETCH_BLOCK; i += step) {
    const a = template[i]
    const b = mix[lag + i]
    product += a * b
    own += a * a
    other += b * b
  }
  return product / Math.sqrt(own * other)
}
