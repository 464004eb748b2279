import type { Renderer } from '../../core/render/render'
import { STRETCH_BLOCK, Stretcher } from '../../core/sound/stretch'
import { clamp, type Frames, type Stretch } from '../../core/time'
import { pull, Reading, sides } from './reading'

/** What a plan sounds like from a place on, at a speed: forwards or, below nothing, backwards. */
export interface Flow {
  /** Where the next block lies in the plan; whole at the sound's own speed. */
  readonly at: number
  readonly ended: boolean
  /** Frames of the plan to one that is heard, in the next block. */
  readonly speed: number
  /** What of the plan the next `count` frames are made from. */
  needs(count: Frames): Stretch
  /** The next frames, left and right: as many as are asked for, or as many as come at once at another speed. */
  next(count: Frames): [Float32Array, Float32Array]
}

/** So many times faster it goes where nobody speaks, if that is wanted. */
const HURRY = 2.5
const FASTEST = 4

/** To the bit what is sent. */
class AsItIs implements Flow {
  readonly speed = 1

  constructor(
    private readonly source: Renderer,
    public at: Frames,
    private readonly to: Frames,
  ) {}

  get ended(): boolean {
    return this.at >= this.to
  }

  needs = (count: Frames) => ({ from: this.at, to: Math.min(this.to, this.at + count) })

  next(count: Frames): [Float32Array, Float32Array] {
    const length = Math.min(count, this.to - this.at)
    const out = pull(this.source, this.at, length)
    this.at += length
    return sides(out)
  }
}

class AtSpeed implements Flow {
  private readonly reading: Reading
  private readonly stretcher: Stretcher

  constructor(
    source: Renderer,
    from: Frames,
    private readonly to: Frames,
    private readonly asked: number,
    private readonly pauses: readonly Stretch[],
  ) {
    this.reading = new Reading(source, asked < 0)
    this.stretcher = new Stretcher(this.reading.read, this.reading.channels, Math.abs(asked), this.reading.turned(from))
  }

  get at(): number {
    return this.reading.turned(this.stretcher.at)
  }

  get ended(): boolean {
    return this.reading.backwards ? this.at <= 0 : this.at >= this.to
  }

  get speed(): number {
    const { at } = this
    const hurried = this.pauses.some(({ from, to }) => at >= from && at < to)
    return hurried ? clamp(this.asked * HURRY, -FASTEST, FASTEST) : this.asked
  }

  needs = () => this.reading.onPlan(this.stretcher.needs)

  next(): [Float32Array, Float32Array] {
    const out = Array.from({ length: this.reading.channels }, () => new Float32Array(STRETCH_BLOCK))
    this.stretcher.speed = Math.abs(this.speed)
    this.stretcher.next(out)
    return sides(out)
  }
}

/** `pauses`: where it is to be hurried through, in frames of the plan. */
export const flowOf = (source: Renderer, from: Frames, to: Frames, speed: number, pauses: readonly Stretch[]): Flow =>
  speed === 1 && !pauses.length ? new AsItIs(source, from, to) : new AtSpeed(source, from, to, speed, pauses)
