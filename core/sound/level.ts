import type { Frames } from '../time'
import { exp2 } from './elementary'

/** Level in dB and as a factor. */

const LOG2_OF_10_OVER_20 = 0.16609640474436813

/** The factor for a level in dB: 0 dB is 1, -6 dB about 0.5. The same bits in every engine. */
export const factor = (dB: number): number => (dB <= -200 ? 0 : exp2(dB * LOG2_OF_10_OVER_20))

/** The level in dB of a factor. For display and analysis only. */
export const decibels = (value: number): number => (value > 0 ? 20 * Math.log10(value) : -Infinity)

/** A point of a level line: a frame of the tape it was drawn on, and a level in dB. */
export interface LevelPoint {
  at: Frames
  dB: number
}

/** The points of a line in a stretch, and the nearest on either side. Undefined if the line is flat at 0 dB there. */
export function lineWithin(points: readonly LevelPoint[], from: Frames, to: Frames): LevelPoint[] | undefined {
  const first = points.findLastIndex(({ at }) => at <= from)
  const last = points.findIndex(({ at }) => at >= to)
  const part = points.slice(Math.max(0, first), last < 0 ? points.length : last + 1)
  return part.some(({ dB }) => dB !== 0) ? part : undefined
}

/** A line between two frames, with a point at each of them. */
export const lineBetween = (points: readonly LevelPoint[], from: Frames, to: Frames): LevelPoint[] => [
  { at: from, dB: lineAt(points, from) },
  ...points.filter(({ at }) => at > from && at < to),
  { at: to, dB: lineAt(points, to) },
]

/**
 * The level in dB at a frame of the tape. Before the first and after the last point the line goes
 * on flat; between two points it eases (smoothstep), so that a change has no corner to be heard.
 */
export function lineAt(points: readonly LevelPoint[], at: Frames): number {
  if (points.length === 0) return 0
  if (at <= points[0].at) return points[0].dB
  for (let i = 1; i < points.length; i++) {
    const right = points[i]
    if (at > right.at) continue
    const left = points[i - 1]
    if (right.at === left.at) return right.dB
    const t = (at - left.at) / (right.at - left.at)
    return left.dB + (right.dB - left.dB) * t * t * (3 - 2 * t)
  }
  return points[points.length - 1].dB
}
