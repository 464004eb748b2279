import { toFrames, type Frames, type Stretch } from '../time'
import { PEAK_LEVELS, PER_BIN } from './peaks'

/** Frames to one look at the level: about 21 ms. */
const WINDOW_BINS = 16
const WINDOW: Frames = WINDOW_BINS * PEAK_LEVELS[0]
const SHORTEST = toFrames(0.25)
/** Below this it is a gap in the recording and no room, in dBFS. */
const DIGITAL_SILENCE = -84
/** Quiet reaches this far above the noise floor, in dB. */
const ABOVE_FLOOR = 5
/** A floor this loud is no room tone but sound all along, in dBFS. */
const LOUDEST_FLOOR = -30

/** Level of each window in dBFS, by the peaks of the finest level; the louder side counts. */
function windows(sides: readonly Int16Array[]): Float64Array {
  const count = Math.floor(sides[0].length / PER_BIN / WINDOW_BINS)
  const levels = new Float64Array(count).fill(-120)
  for (const peaks of sides)
    for (let w = 0; w < count; w++) {
      let squares = 0
      for (let bin = w * WINDOW_BINS; bin < (w + 1) * WINDOW_BINS; bin++) squares += peaks[bin * PER_BIN + 2] ** 2
      levels[w] = Math.max(levels[w], 10 * Math.log10(squares / WINDOW_BINS / 32767 ** 2 + 1e-12))
    }
  return levels
}

/**
 * The quietest stretches of a tape that are a room and not a gap in the recording, the quietest
 * first. `sides` are the finest peaks of each channel. Empty where there is none to be used.
 */
export function quietStretches(sides: readonly Int16Array[]): Stretch[] {
  const levels = windows(sides)
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
      // a window less at either end, where a word may still be dying away
      const stretch = { from: (start + 1) * WINDOW, to: (w - 1) * WINDOW, level: sum / (w - start) }
      if (stretch.to - stretch.from >= SHORTEST) found.push(stretch)
      start = -1
    }
  }
  return found
    .sort((a, b) => a.level - b.level)
    .slice(0, 40)
    .map(({ from, to }) => ({ from, to }))
}
