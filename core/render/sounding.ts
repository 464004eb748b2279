import { RATE, type Frames } from '../time'
import type { Strip } from './plan'

/** Strips are looked up by the second. */
const BUCKET = RATE

/** Finds the strips that sound anywhere in `[from, to)` of a plan, in their order. */
export type Sounding = (from: Frames, to: Frames) => Strip[]

export function soundingOf(strips: readonly Strip[]): Sounding {
  const buckets = new Map<number, number[]>()
  for (const [index, strip] of strips.entries()) {
    const last = Math.floor((strip.at + strip.length - 1) / BUCKET)
    for (let bucket = Math.floor(strip.at / BUCKET); bucket <= last; bucket++) {
      const held = buckets.get(bucket)
      if (held) held.push(index)
      else buckets.set(bucket, [index])
    }
  }
  return (from, to) => {
    const indices = new Set<number>()
    for (let bucket = Math.floor(from / BUCKET); bucket <= Math.floor((to - 1) / BUCKET); bucket++)
      for (const index of buckets.get(bucket) ?? []) indices.add(index)
    return [...indices]
      .sort((a, b) => a - b)
      .map((index) => strips[index])
      .filter((strip) => strip.at < to && strip.at + strip.length > from)
  }
}
