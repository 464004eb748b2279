import { firstWhere } from './search'
import type { Frames, Stretch } from './time'

/** What is done with stretches of frames: everywhere the same few things. */

/** A stretch of one tape. */
export type TapeStretch = Stretch & { tape: string }

/** Whether two stretches have a frame in common. */
export const overlaps = (a: Stretch, b: Stretch): boolean => a.from < b.to && b.from < a.to

/** Whether two stretches overlap, or one begins where the other ends. */
export const touches = (a: Stretch, b: Stretch): boolean => a.from <= b.to && b.from <= a.to

/** Whether a stretch overlaps any of several. */
export const overlapsAny = (stretches: readonly Stretch[], one: Stretch): boolean => stretches.some((other) => overlaps(other, one))

/** Stretches in order, those that overlap or touch as one. */
export function united(stretches: readonly Stretch[]): Stretch[] {
  const out: Stretch[] = []
  for (const { from, to } of [...stretches].sort((a, b) => a.from - b.from)) {
    const last = out[out.length - 1]
    if (last && from <= last.to) out[out.length - 1] = { from: last.from, to: Math.max(last.to, to) }
    else out.push({ from, to })
  }
  return out
}

/** What is left of a stretch once others are taken from it. */
export function without(stretch: Stretch, others: readonly Stretch[]): Stretch[] {
  let left: Stretch[] = [{ from: stretch.from, to: stretch.to }]
  for (const { from, to } of others)
    left = left.flatMap((part) =>
      [
        { from: part.from, to: Math.min(part.to, from) },
        { from: Math.max(part.from, to), to: part.to },
      ].filter((rest) => rest.to > rest.from),
    )
  return left
}

/** Stretches in order, asked what they share with a place. */
export class Covering {
  private readonly all: readonly Stretch[]

  constructor(stretches: readonly Stretch[]) {
    this.all = united(stretches)
  }

  /** How much of a place is covered, in frames. */
  of({ from, to }: Stretch): Frames {
    let sum = 0
    for (let i = firstWhere(this.all.length, (k) => this.all[k].to > from); i < this.all.length && this.all[i].from < to; i++)
      sum += Math.min(to, this.all[i].to) - Math.max(from, this.all[i].from)
    return sum
  }
}
