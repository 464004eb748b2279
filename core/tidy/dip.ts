import type { LevelPoint } from '../sound/level'
import { milliseconds, type Frames, type Stretch } from '../time'

/** A stretch turned up or down, with soft shoulders: the level line of a suggestion. It begins and ends at 0 dB. */

const SHOULDER: Frames = milliseconds(30)
/** What is no longer than this is one spot: a dip of three points. */
const SPOT: Frames = milliseconds(180)
const [LEAST, MOST] = [-40, 12]

/** `dB` is what it is turned by, rounded to halves, from -40 to 12. */
export function turned({ from, to }: Stretch, dB: number): LevelPoint[] {
  const level = Math.max(LEAST, Math.min(MOST, Math.round(dB * 2) / 2))
  const [start, end] = [
    { at: Math.max(0, from - SHOULDER), dB: 0 },
    { at: to + SHOULDER, dB: 0 },
  ]
  if (to - from <= SPOT) return [start, { at: Math.round((from + to) / 2), dB: level }, end]
  return [start, { at: from + SHOULDER, dB: level }, { at: to - SHOULDER, dB: level }, end]
}
