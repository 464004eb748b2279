import { linePower, LINE_WINDOW } from '../hearing/hum'
import { RATE } from '../time'
import type { Hum } from './hum'

/** One half of a second is looked at out of so many: the quietest, where a voice hides the hum least. */
const OUT_OF = 20
const DIGITAL_SILENCE = 1e-10
/** Tones above this are few and soft, and cost time. */
const MOST_TONES = 12

/** What a treatment left of a hum: the power at the mains and its overtones, where little else sounds, before and after. */
export class HumLeft {
  private readonly tones: number[]
  private readonly before = new Float32Array(LINE_WINDOW)
  private readonly after = new Float32Array(LINE_WINDOW)
  private filled = 0
  private seen = 0
  private quietest: { power: number; before: Float32Array; after: Float32Array } | null = null
  private readonly sum = { before: 0, after: 0 }

  constructor({ mains, harmonics }: Pick<Hum, 'mains' | 'harmonics'>) {
    this.tones = Array.from({ length: Math.min(MOST_TONES, harmonics) }, (_, k) => (k + 1) * mains).filter((hertz) => hertz < RATE / 2)
  }

  /** Takes a part of both, in order. */
  add(before: Float32Array, after: Float32Array): void {
    for (let from = 0; from < before.length;) {
      const count = Math.min(LINE_WINDOW - this.filled, before.length - from)
      this.before.set(before.subarray(from, from + count), this.filled)
      this.after.set(after.subarray(from, from + count), this.filled)
      this.filled += count
      from += count
      if (this.filled === LINE_WINDOW) this.look()
    }
  }

  private look(): void {
    this.filled = 0
    let power = 0
    for (const sample of this.before) power += sample * sample
    if (power > DIGITAL_SILENCE && power < (this.quietest?.power ?? Infinity))
      this.quietest = { power, before: this.before.slice(), after: this.after.slice() }
    if (++this.seen % OUT_OF === 0) this.measure()
  }

  private measure(): void {
    for (const hertz of this.quietest ? this.tones : []) {
      this.sum.before += linePower(this.quietest!.before, 0, hertz)
      this.sum.after += linePower(this.quietest!.after, 0, hertz)
    }
    this.quietest = null
  }

  /** How much of its power is left, as a ratio; null where nothing could be looked at. */
  finish(): number | null {
    this.measure()
    return this.sum.before > 0 ? this.sum.after / this.sum.before : null
  }
}
