import type { Renderer } from '../../core/render/render'
import { STRETCH_BLOCK, Stretcher } from '../../core/sound/stretch'
import { clamp, RATE, type Frames, type Stretch } from '../../core/time'
import type { Flow } from './flow'
import { Reading, sides } from './reading'

/** The sound is with the hand after about so long. */
const CATCH_UP = 0.12 * RATE
const SLOWEST = 0.25
const FASTEST = 4
/** From further off it leaps, and comes in so much before the hand. */
const FAR = 0.6 * RATE
const RUN_UP = 0.1 * RATE
const NOTHING: Stretch = { from: 0, to: 0 }

/** What lies under a hand that is drawn over the sound, there and back, at the sound's own pitch; silent where the hand rests. */
export class UnderHand implements Flow {
  readonly ended = false
  private place: number
  private now: { reading: Reading; stretcher: Stretcher; begun: boolean } | null = null
  private leaving = false

  constructor(
    private readonly source: Renderer,
    public hand: Frames,
  ) {
    this.place = hand
  }

  get at(): number {
    return this.now ? this.now.reading.turned(this.now.stretcher.at) : this.place
  }

  get speed(): number {
    return this.now && !this.leaving ? this.now.stretcher.speed * (this.now.reading.backwards ? -1 : 1) : 0
  }

  /** Decides what the next block is, too: the hand may move on before it is asked for. */
  needs(): Stretch {
    const way = this.hand - this.at
    if (this.now) {
      this.leaving = way < 0 !== this.now.reading.backwards || Math.abs(way) < STRETCH_BLOCK / 2 || Math.abs(way) > FAR
      if (this.leaving) return NOTHING
    } else {
      if (Math.abs(way) < STRETCH_BLOCK) return NOTHING
      if (Math.abs(way) > FAR) this.place = this.hand - Math.sign(way) * RUN_UP
      const reading = new Reading(this.source, way < 0)
      this.now = { reading, stretcher: new Stretcher(reading.read, reading.channels, 1, reading.turned(this.place)), begun: false }
    }
    const { reading, stretcher } = this.now
    stretcher.speed = clamp(Math.abs(this.hand - this.at) / CATCH_UP, SLOWEST, FASTEST)
    return reading.onPlan(stretcher.needs)
  }

  next(): [Float32Array, Float32Array] {
    const out = Array.from({ length: this.source.plan.channels }, () => new Float32Array(STRETCH_BLOCK))
    if (!this.now) return sides(out)
    const { stretcher, begun } = this.now
    if (this.leaving) {
      this.place = this.at
      stretcher.release(out)
      this.now = null
      this.leaving = false
    } else {
      stretcher.next(out)
      if (!begun) for (const samples of out) for (let i = 0; i < STRETCH_BLOCK; i++) samples[i] *= i / STRETCH_BLOCK
      this.now.begun = true
    }
    return sides(out)
  }
}
