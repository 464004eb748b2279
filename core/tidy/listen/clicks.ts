import { predict } from '../../sound/predictor'
import type { Stretch } from '../../time'

/**
 * Clicks, by what a voice cannot have told (Godsill and Rayner 1998, Digital Audio Restoration, chapter 5): a linear predictor
 * is fitted to each block, and where its error stands far above the error around it, something came from outside the voice.
 */

const ORDER = 16
const BLOCK = 1024
const HOP = BLOCK / 2
/** The error is looked at in bins of a third of a millisecond. */
const BIN = 16
/** What is this close belongs to one click, in bins. */
const TOGETHER = 12
/** No click is longer, in bins: what goes on is a sound. */
const LONGEST = 40
/** Held against what lies between so many bins on either side: a voice's own pulses come again within that. */
const [NEAR, FAR] = [14, 75]
/** A click stands this far above the error around it, in dB, or it is no candidate. */
const LEAST = 6
/** Softer than this nobody hears one, in dBFS of its error. */
const SOFTEST = -75

export interface Click extends Stretch {
  /** How far its error stands above the largest around it, in dB. */
  over: number
  /** dBFS of its highest error. */
  peak: number
}

/** Listens for clicks to sound that comes in blocks of any size. */
export class ClickListener {
  private rest = new Float32Array(HOP / 2)
  /** The largest error of each bin, in dBFS. */
  private readonly errors: number[] = []
  private readonly lags = new Float64Array(ORDER + 1)
  private readonly predictor = new Float64Array(ORDER + 1)
  private readonly before = new Float64Array(ORDER + 1)
  private readonly windowed = new Float64Array(BLOCK)

  add(sound: Float32Array): void {
    const all = new Float32Array(this.rest.length + sound.length)
    all.set(this.rest)
    all.set(sound, this.rest.length)
    let at = 0
    for (; at + BLOCK <= all.length; at += HOP) this.block(all, at)
    this.rest = all.slice(at)
  }

  finish(): Click[] {
    this.add(new Float32Array(BLOCK))
    return clicksIn(this.errors)
  }

  /** The errors of the middle half of a block. */
  private block(all: Float32Array, at: number): void {
    this.fit(all, at)
    const { predictor } = this
    for (let from = at + HOP / 2; from < at + HOP / 2 + HOP; from += BIN) {
      let top = 0
      for (let i = from; i < from + BIN; i++) {
        let error = all[i]
        for (let k = 1; k <= ORDER; k++) error += predictor[k] * all[i - k]
        if (error < 0) error = -error
        if (error > top) top = error
      }
      this.errors.push(top > 1e-7 ? 20 * Math.log10(top) : -140)
    }
  }

  /** Fits the predictor to a block. */
  private fit(all: Float32Array, at: number): void {
    const { lags, predictor, before, windowed } = this
    for (let i = 0; i < BLOCK; i++) windowed[i] = all[at + i] * TAPER[i]
    for (let lag = 0; lag <= ORDER; lag++) {
      let sum = 0
      for (let i = lag; i < BLOCK; i++) sum += windowed[i] * windowed[i - lag]
      lags[lag] = sum
    }
    lags[0] = lags[0] * 1.00001 + 1e-12
    predict(lags, predictor, before)
  }
}

const TAPER = Float64Array.from({ length: BLOCK }, (_, i) => 0.54 - 0.46 * Math.cos((2 * Math.PI * (i + 0.5)) / BLOCK))

function clicksIn(errors: readonly number[]): Click[] {
  const clicks: Click[] = []
  for (let i = 1; i < errors.length - 1; i++) {
    const peak = errors[i]
    if (peak < SOFTEST || peak < errors[i - 1] || peak <= errors[i + 1]) continue
    let around = -Infinity
    for (let k = Math.max(0, i - FAR); k <= Math.min(errors.length - 1, i + FAR); k++)
      if (Math.abs(k - i) >= NEAR && errors[k] > around) around = errors[k]
    const over = peak - around
    if (over < LEAST) continue
    // as far as it stands above half of that
    const [least, last] = [around + over / 3, clicks.at(-1)]
    let [from, to] = [i, i + 1]
    while (from > 0 && i - from < LONGEST && errors[from - 1] > least) from--
    while (to < errors.length && to - i < LONGEST && errors[to] > least) to++
    if (to - from >= LONGEST) continue
    const click = { from: from * BIN, to: to * BIN, over, peak }
    if (last && click.from - last.to < TOGETHER * BIN) {
      if (over > last.over) clicks[clicks.length - 1] = click
    } else clicks.push(click)
  }
  return clicks
}
