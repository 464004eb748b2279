import { clamp, milliseconds, type Frames, type Stretch } from '../time'
import { BANDS, LOOK_STEP, SoundLooks } from './bands'

/** What stands out of a room, band by band, and where nothing does. */

/** Something is heard where its bands stand so far over the room, in dB. */
export const STANDS_OUT = 6
/** The room is heard in the quietest eighth of the looks, of which every so many are looked at. */
const STEP = 6
const QUIETEST = 8
/** In looks: what is near goes into one figure. */
const SMOOTH = [-4, -2, 0, 2, 4]

/** The mean of powers that are given in dB. */
const power = (levels: readonly number[]): number => 10 * Math.log10(levels.reduce((sum, dB) => sum + 10 ** (dB / 10), 0) / levels.length)

/** The room between two looks of a sound: how loud it is in each band where nothing is said. */
export class Room {
  private readonly floor = new Float32Array(BANDS)

  constructor(
    private readonly levels: SoundLooks,
    from: number,
    to: number,
  ) {
    const looks = Array.from({ length: Math.floor((to - from) / STEP) }, (_, i) => from + i * STEP).sort(
      (a, b) => levels.level[a] - levels.level[b],
    )
    const quiet = looks.slice(0, Math.max(4, Math.floor(looks.length / QUIETEST)))
    for (let band = 0; band < BANDS; band++) this.floor[band] = quiet.length ? power(quiet.map((at) => levels.bands(at)[band])) : -Infinity
  }

  /** The level of a band over some 20 ms around a look, in dB. */
  smooth(at: number, band: number): number {
    return power(SMOOTH.map((by) => this.levels.bands(clamp(at + by, 0, this.levels.count - 1))[band]))
  }

  /** The band that stands out most. */
  clearest(at: number): number {
    let best = 0
    for (let band = 1; band < BANDS; band++)
      if (this.smooth(at, band) - this.floor[band] > this.smooth(at, best) - this.floor[best]) best = band
    return best
  }

  /** By how much the second of the bands that stand out most stands over the room, in dB: one alone may be noise. */
  over(at: number): number {
    let most = -Infinity
    let second = -Infinity
    for (let band = 0; band < BANDS; band++) {
      const over = this.smooth(at, band) - this.floor[band]
      second = Math.max(second, Math.min(most, over))
      most = Math.max(most, over)
    }
    return second
  }
}

/** Pauses are looked for every 10 ms, and nothing is one that is shorter than 0.2 s. */
const PAUSE_STEP = milliseconds(10) / LOOK_STEP
const SHORTEST = 20
/** So much of a pause after and before speech is left alone: what dies away, and what begins softly. In steps. */
const AFTER = 8
const BEFORE = 6

/**
 * Where nothing stands out of the room, in frames of the sound: pauses. An aligner that hears noise there takes it for
 * words, so it is given the room turned down.
 */
export function pausesIn(sound: Float32Array): Stretch[] {
  const levels = new SoundLooks(sound)
  const room = new Room(levels, 0, levels.count)
  const count = Math.floor(levels.count / PAUSE_STEP)
  const frame = (step: number): Frames => step * PAUSE_STEP * LOOK_STEP
  const found: Stretch[] = []
  for (let at = 0, start = -1; at <= count; at++) {
    const quiet = at < count && room.over(at * PAUSE_STEP) < STANDS_OUT
    if (quiet && start < 0) start = at
    if (quiet || start < 0) continue
    if (at - start >= SHORTEST)
      found.push({ from: start === 0 ? 0 : frame(start + AFTER), to: at === count ? sound.length : frame(at - BEFORE) })
    start = -1
  }
  return found
}
