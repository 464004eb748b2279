import { DIGITAL_SILENCE, LOOK } from './levels'
import { toFrames, type Stretch } from '../time'

const SHORTEST = toFrames(0.25)
/** Quiet reaches this far above the noise floor, in dB. */
const ABOVE_FLOOR = 5
/** A floor this loud is no room tone but sound all along, in dBFS. */
const LOUDEST_FLOOR = -30

/** Level of each look in dBFS; the loudest channel counts. */
function levelsOf(channels: readonly ArrayLike<number>[]): Float64Array {
  return Float64Array.from({ length: channels[0].length }, (_, i) => {
    let power = 0
    for (const looks of channels) power = Math.max(power, looks[i])
    return 10 * Math.log10(power + 1e-12)
  })
}

/** The floor of a room is looked for within so many looks on either side, since a tape may go from one room to another. */
const AROUND = Math.round(toFrames(20) / LOOK)
/** A room that is louder than the quietest of the tape by more than this is told from low talk by how even it is, in dB. */
const LOUDER_ROOM = 6
const EVEN = 1.6
/** Of the stretches that lie this close together, in looks, no more than so many are kept. */
const [TOGETHER, KEPT] = [Math.round(toFrames(30) / LOOK), 6]

const share = (levels: readonly number[], part: number): number => [...levels].sort((a, b) => a - b)[Math.floor(levels.length * part)]

/**
 * The quietest stretches of a tape that are a room and not a gap in the recording, in each part of it
 * against the floor there; the quietest first. Takes the mean squares of each look (20 ms) of each
 * channel. Empty where there is none to be used.
 */
export function quietStretches(channels: readonly ArrayLike<number>[]): Stretch[] {
  const levels = levelsOf(channels)
  const rooms = [...levels].filter((level) => level > DIGITAL_SILENCE)
  if (!rooms.length) return []
  const quietest = share(rooms, 0.05)
  if (quietest > LOUDEST_FLOOR) return []
  const parts: (Stretch & { level: number })[] = []
  for (let begin = 0; begin < levels.length; begin += TOGETHER) {
    const around = [...levels.subarray(Math.max(0, begin - AROUND), begin + TOGETHER + AROUND)].filter((level) => level > DIGITAL_SILENCE)
    if (!around.length) continue
    const floor = Math.max(quietest, share(around, 0.05))
    if (floor > LOUDEST_FLOOR) continue
    const found = runsBelow(levels, begin, Math.min(levels.length, begin + TOGETHER), floor + ABOVE_FLOOR)
    const even = floor > quietest + LOUDER_ROOM ? found.filter(({ spread }) => spread < EVEN) : found
    parts.push(...even.sort((a, b) => a.level - b.level).slice(0, KEPT))
  }
  return parts.sort((a, b) => a.level - b.level).map(({ from, to }) => ({ from, to }))
}

/** Runs of looks below a level, with their mean and how far they stray from it, in dB. */
function runsBelow(levels: Float64Array, begin: number, end: number, most: number): (Stretch & { level: number; spread: number })[] {
  const found: (Stretch & { level: number; spread: number })[] = []
  let start = -1
  for (let w = begin; w <= end; w++) {
    const quiet = w < end && levels[w] > DIGITAL_SILENCE && levels[w] <= most
    if (quiet && start < 0) start = w
    if (quiet || start < 0) continue
    const run = levels.subarray(start, w)
    const level = run.reduce((sum, one) => sum + one, 0) / run.length
    const spread = Math.sqrt(run.reduce((sum, one) => sum + (one - level) ** 2, 0) / run.length)
    // a look less at either end, where a word may still be dying away
    const stretch = { from: (start + 1) * LOOK, to: (w - 1) * LOOK, level, spread }
    if (stretch.to - stretch.from >= SHORTEST) found.push(stretch)
    start = -1
  }
  return found
}
