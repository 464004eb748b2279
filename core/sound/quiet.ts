import { LOOK } from '../hearing/levels'
import { toFrames, type Stretch } from '../time'

const SHORTEST = toFrames(0.25)
/** Below this it is a gap in the recording and no room, in dBFS. */
const DIGITAL_SILENCE = -84
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

/**
 * The quietest stretches of a tape that are a room and not a gap in the recording, the quietest
 * first. Takes the mean squares of each look (20 ms) of each channel. Empty where there is none to be used.
 */
export function quietStretches(channels: readonly ArrayLike<number>[]): Stretch[] {
  const levels = levelsOf(channels)
  const rooms = [...levels].filter((level) => level > DIGITAL_SILENCE).sort((a, b) => a - b)
  if (!rooms.length) return []
  const floor = rooms[Math.floor(rooms.length * 0.05)]
  if (floor > LOUDEST_FLOOR) return []
  const found: (Stretch & { level: number })[] = []
  let start = -1
  let sum = 0
  for (let w = 0; w <= levels.length; w++) {
    const quiet = w < levels.length && levels[w] > DIGITAL_SILENCE && levels[w] <= floor + ABOVE_FLOOR
    if (quiet && start < 0) {
      start = w
      sum = 0
    }
    if (quiet) sum += levels[w]
    if (!quiet && start >= 0) {
      // a look less at either end, where a word may still be dying away
      const stretch = { from: (start + 1) * LOOK, to: (w - 1) * LOOK, level: sum / (w - start) }
      if (stretch.to - stretch.from >= SHORTEST) found.push(stretch)
      start = -1
    }
  }
  return found
    .sort((a, b) => a.level - b.level)
    .slice(0, 40)
    .map(({ from, to }) => ({ from, to }))
}
