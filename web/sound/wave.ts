import { firstWhere } from '../../core/search'
import { levelFor } from '../../core/sound/peaks'
import type { Plan, Strip } from '../../core/render/plan'
import { gainAt } from '../../core/render/render'
import { isMadeTone } from '../../core/tape/renditions'
import type { Frames } from '../../core/time'
import { peakCache } from './peakCache'

/** The wave of a plan for drawing, as it will sound: levels and fades are in it. */
export class Wave {
  private readonly strips: Strip[]
  private readonly reach: Float64Array
  private readonly bin = new Float64Array(3)
  private near = 0

  constructor(readonly plan: Plan) {
    this.strips = [...plan.strips].filter((strip) => strip.length > 0).sort((a, b) => a.at - b.at)
    let furthest = 0
    this.reach = Float64Array.from(this.strips, (strip) => (furthest = Math.max(furthest, strip.at + strip.length)))
  }

  /** The first strip that reaches beyond a frame. Columns come in order: mostly it is that of the last. */
  private firstAt(frame: Frames): number {
    const near = this.near
    if ((near === 0 || this.reach[near - 1] <= frame) && near < this.reach.length) {
      if (this.reach[near] > frame) return near
      if (near + 1 < this.reach.length && this.reach[near + 1] > frame) return (this.near = near + 1)
    }
    return (this.near = firstWhere(this.reach.length, (i) => this.reach[i] > frame))
  }

  /** Lowest, highest and root mean square of a stretch into `out`; false while peaks are on their way. */
  column(from: Frames, to: Frames, perPixel: number, out: Float64Array): boolean {
    const level = levelFor(perPixel)
    let whole = true
    out[0] = out[1] = out[2] = 0
    if (!this.strips.length) return true
    for (let i = this.firstAt(from); i < this.strips.length && this.strips[i].at < to; i++) {
      const strip = this.strips[i]
      const a = Math.max(from, strip.at)
      const b = Math.min(to, strip.at + strip.length)
      if (b <= a) continue
      // tone that was made has no peaks of its own: it is drawn as the hush that it is
      if (isMadeTone(strip.sound)) continue
      if (!peakCache.range(strip.sound, strip.channel, level, strip.from + a - strip.at, strip.from + b - strip.at, this.bin)) {
        whole = false
        continue
      }
      const gain = gainAt(strip, (a + b) / 2)
      // turned over, the lowest is the highest
      out[0] = Math.min(out[0], this.bin[gain < 0 ? 1 : 0] * gain)
      out[1] = Math.max(out[1], this.bin[gain < 0 ? 0 : 1] * gain)
      out[2] = Math.max(out[2], Math.sqrt(this.bin[2]) * Math.abs(gain))
    }
    return whole
  }
}
