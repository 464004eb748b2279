import type { Renderer } from '../../core/render/render'
import { clamp, type Frames, type Stretch } from '../../core/time'

/** A plan read forwards or backwards: backwards, time is counted from its end. Silent beyond its ends. */
export class Reading {
  constructor(
    private readonly source: Renderer,
    readonly backwards: boolean,
  ) {}

  get channels(): number {
    return this.source.plan.channels
  }

  /** The time of a place of the plan, and the place of a time. */
  turned = (place: number): number => (this.backwards ? this.source.plan.length - place : place)

  /** Where on the plan a stretch of time lies, as far as there is any. */
  onPlan({ from, to }: Stretch): Stretch {
    const { length } = this.source.plan
    const [a, b] = this.backwards ? [length - to, length - from] : [from, to]
    return { from: clamp(a, 0, length), to: clamp(b, 0, length) }
  }

  read = (from: Frames, to: Frames): Float32Array[] => {
    const there = this.onPlan({ from, to })
    const sound = pull(this.source, there.from, there.to - there.from)
    const before = this.backwards ? this.source.plan.length - from - there.to : there.from - from
    return sound.map((samples) => {
      const out = new Float32Array(to - from)
      out.set(this.backwards ? samples.reverse() : samples, clamp(before, 0, to - from - samples.length))
      return out
    })
  }
}

/** Frames of a plan, a row a channel. */
export function pull(source: Renderer, from: Frames, count: Frames): Float32Array[] {
  const out = Array.from({ length: source.plan.channels }, () => new Float32Array(count))
  if (count > 0) source.pull(from, out)
  return out
}

/** Left and right; one channel is both. */
export const sides = (out: Float32Array[]): [Float32Array, Float32Array] => [out[0], out[1] ?? out[0]]
