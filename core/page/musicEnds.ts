import { decibels } from '../sound/level'
import { PER_BIN } from '../sound/peaks'
import type { Frames } from '../time'

/** What is softer than this is no note, in dBFS, and so is what is so much softer than the music is on the whole, in dB. */
const SOFTEST = -54
const BELOW = 34
/** A note lasts at least so many bins: a click is none. */
const LASTS = 3

/**
 * The frame at which music begins to be heard, told by its peaks from its beginning on (`frames` a bin); 0 where it begins at once,
 * or where nothing is heard. A bin before the first that is loud enough, so that no attack is cut.
 */
export function firstNote(peaks: ArrayLike<number>, frames: Frames): Frames {
  return Math.max(0, firstLoud(levelsOf(peaks)) - 1) * frames
}

/**
 * How long before the end of its peaks music has died away, in frames; 0 where it sounds to its end, or where nothing is heard.
 * A bin after the last that is loud enough, so that the last note rings out.
 */
export function afterLastNote(peaks: ArrayLike<number>, frames: Frames): Frames {
  return Math.max(0, firstLoud(levelsOf(peaks).reverse()) - 1) * frames
}

const levelsOf = (peaks: ArrayLike<number>): number[] =>
  Array.from({ length: Math.floor(peaks.length / PER_BIN) }, (_, bin) => decibels(peaks[bin * PER_BIN + 2] / 32_767))

/** The first bin of the first note; 0 where there is none. */
function firstLoud(levels: readonly number[]): number {
  const sorted = [...levels].sort((a, b) => a - b)
  const loud = sorted[Math.floor(sorted.length * 0.9)] ?? -Infinity
  const threshold = Math.max(SOFTEST, loud - BELOW)
  for (let bin = 0; bin + LASTS <= levels.length; bin++) if (levels.slice(bin, bin + LASTS).every((level) => level > threshold)) return bin
  return 0
}
