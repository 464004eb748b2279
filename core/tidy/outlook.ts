import type { CutOrder } from '../cuts/cut'
import type { Prediction } from '../cuts/predict'
import type { Word } from '../tape/words'
import { toFrames, type Frames, type Stretch } from '../time'
import type { Found } from './finder'

/**
 * How a place would sound once it is taken out. The pause before it may go along, or the one behind it, or neither: each way is
 * placed where it is heard least, and the best of them counts. A pause that is shortened keeps the length that was proposed.
 */

/** What goes, how much room is left in its place, and how likely that is to be heard. */
export interface Outlook extends Prediction {
  goes: Stretch
  room: Frames
}

/** Joins from here on are left open where all of a kind is applied. */
export const AUDIBLE = 0.35

/** A join is looked for within so much of where it was proposed. */
const AROUND: Frames = toFrames(1)
/** A longer pause beside a place is a rest of its own, and stays. */
const REST: Frames = toFrames(1.2)

/** The ways in which a place can go, the proposed one first; none where nothing is joined. */
export function waysOut({ from, to, proposes }: Found, words: readonly Word[], tape: string, frames: Frames): CutOrder[] {
  if (!('goes' in proposes) || proposes.goes.from <= 0 || proposes.goes.to >= frames) return []
  const { goes } = proposes
  const ways = [goes]
  if (!isPause({ from, to, proposes })) {
    const before = words.findLast((word) => word.to <= from)?.to
    const after = words.find((word) => word.from >= to)?.from
    if (before !== undefined && from - before < REST) ways.push({ from: before, to })
    if (after !== undefined && after - to < REST) ways.push({ from, to: after })
    ways.push({ from, to })
  }
  const different = ways.filter((one, i) => ways.findIndex((other) => other.from === one.from && other.to === one.to) === i)
  return different.map((way) => ({
    left: { tape, asked: way.from, low: Math.max(1, way.from - AROUND), high: way.to },
    right: { tape, asked: way.to, low: way.from, high: Math.min(frames - 1, way.to + AROUND) },
  }))
}

/** Whether only the inside of it goes. */
export const isPause = ({ from, to, proposes }: Pick<Found, 'from' | 'to' | 'proposes'>): boolean =>
  'goes' in proposes && proposes.goes.from > from && proposes.goes.to < to

/** The way that is heard least. */
export const bestOf = (outlooks: readonly Outlook[]): Outlook | null =>
  outlooks.reduce<Outlook | null>((best, one) => (best && best.heard <= one.heard ? best : one), null)
