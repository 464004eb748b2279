import type { Stretch } from '../../time'
import { BANDS } from './looks'
import { inFrames, type Sounding } from './sounding'

/**
 * Sounds of hesitation, told without words: a vowel or a hum that stands alone between pauses, and is held while nothing is
 * articulated. One that runs into a word is not told from that word.
 */

/** The spectrum is held against that of so many looks before. */
const APART = 3
/** A band counts where it stands this far above the room, in dB. */
const STANDS_OUT = 8
/** And so many bands must. */
const FEWEST_BANDS = 4
/** It is held where its bands change by less than this on average, in dB; what changes by more is not counted as ringing. */
const [HELD, CHANGES] = [3.8, 12]
/** Looks at either end in which it begins and dies away. */
const ENDS = 3
/** In looks: the shortest and the longest one, and the least pause on either side. */
const [SHORTEST, LONGEST, PAUSE] = [18, 85, 8]
/** A pause in which nothing is articulated stands so far above the room at most, in dB over all bands. */
const SILENT = 0.3
/** So much of it rings. */
const RINGING = 0.6

export interface Hesitation extends Stretch {
  /** 0 to 1. */
  sure: number
}

/** How much the spectrum of a look has changed since a moment before, in dB, a change of level apart; null where little rings. */
function change({ looks: { bands }, room, voiced }: Sounding, i: number): number | null {
  if (i < APART || !voiced[i] || !voiced[i - APART]) return null
  const stands = (band: number) => room.over[i * BANDS + band] >= STANDS_OUT
  const moved = (band: number) => bands[i * BANDS + band] - bands[(i - APART) * BANDS + band]
  let [level, count] = [0, 0]
  for (let band = 0; band < BANDS; band++) {
    if (!stands(band)) continue
    level += moved(band)
    count++
  }
  if (count < FEWEST_BANDS) return null
  let sum = 0
  for (let band = 0; band < BANDS; band++) if (stands(band)) sum += Math.abs(moved(band) - level / count)
  return sum / count
}

export function hesitationsIn(sounding: Sounding): Hesitation[] {
  const { room, voices, looks } = sounding
  const silent = (from: number, to: number) => {
    let sum = 0
    for (let i = from; i < to; i++) sum += room.sum[i]
    return sum <= SILENT * (to - from)
  }
  return voices.flatMap(({ from, to }, k): Hesitation[] => {
    const [before, after] = [from - (voices[k - 1]?.to ?? 0), (voices[k + 1]?.from ?? looks.count) - to]
    if (before < PAUSE || after < PAUSE || to - from < SHORTEST || to - from > LONGEST) return []
    if (!silent(from - PAUSE, from - 1) || !silent(to + 1, to + PAUSE)) return []
    let [sum, count] = [0, 0]
    for (let i = from + ENDS; i < to - ENDS; i++) {
      const one = change(sounding, i)
      if (one === null || one >= CHANGES) continue
      sum += one
      count++
    }
    if (count < RINGING * (to - from) || sum > HELD * count) return []
    return [{ ...inFrames({ from, to }), sure: Math.max(0.5, Math.min(0.9, 1.2 - sum / count / 5)) }]
  })
}
