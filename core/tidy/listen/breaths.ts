import type { Stretch } from '../../time'
import { BAND_HERTZ, BANDS } from './looks'
import { inFrames, type Sounding } from './sounding'

/** Breaths: noise in the bands of a throat, softer than the voice, for longer than a consonant. */

/** In looks. */
const [SHORTEST, LONGEST] = [16, 120]
/** What hisses on behind a voice is its last consonant, unless it is longer than this. */
const CONSONANT = 28
/** Less than so many looks between a voice and what follows are no gap. */
const NO_GAP = 4
/** Where most of a breath lies, in Hz; an s lies higher, a thump lower. */
const [LOWEST, HIGHEST] = [600, 5200]
/** A breath is softer than the voice by this, in dB. */
const SOFTER = 4
/** Of its looks so many may ring. */
const RINGING = 0.3
/** The level of a breath is that of so many of its looks, the softest: a click or a knock in it makes no louder breath. */
const OF_ALL = 0.85

export interface Breath extends Stretch {
  /** dBFS. */
  level: number
  /** How far it stands above the room, in dB over all bands; what was listened to before this was measured lacks it. */
  over?: number
}

/** What hisses apart from voices, or before them for longer than a consonant does. */
export function breathsIn({ looks, room, voiced, heard, voices, others, level }: Sounding): Breath[] {
  const before = voices.flatMap(({ from, to }): Stretch[] => {
    let end = from
    while (end < to && !voiced[end]) end++
    let begin = from
    while (begin > 0 && heard[begin - 1]) begin--
    return end - begin >= SHORTEST ? [{ from: begin, to: end }] : []
  })
  const all = [...others.filter((one) => !before.some(({ from, to }) => from < one.to && one.from < to)), ...before]
  return all
    .sort((a, b) => a.from - b.from)
    .flatMap((one): Breath[] => {
      const length = one.to - one.from
      const behind = voices.some(({ to }) => to <= one.from + 1 && one.from - to < NO_GAP)
      if (length < (behind ? CONSONANT : SHORTEST) || length > LONGEST) return []
      let [rings, centre, weight, stands] = [0, 0, 0, 0]
      for (let i = one.from; i < one.to; i++) {
        stands += room.sum[i]
        if (looks.ringing[i] > 0.6) rings++
        for (let band = 0; band < BANDS; band++) {
          const over = Math.max(0, room.over[i * BANDS + band])
          centre += over * BAND_HERTZ[band]
          weight += over
        }
      }
      const own = levelOf(
        looks.level
          .slice(one.from, one.to)
          .sort()
          .subarray(0, Math.ceil(OF_ALL * length)),
      )
      const hertz = centre / Math.max(1e-9, weight)
      if (own > level - SOFTER || rings > RINGING * length || hertz < LOWEST || hertz > HIGHEST) return []
      return [{ ...inFrames(one), level: own, over: stands / length }]
    })
}

/** The level of what has these levels, one after the other, dBFS. */
function levelOf(levels: Float32Array): number {
  return 10 * Math.log10(levels.reduce((sum, level) => sum + 10 ** (level / 10), 0) / levels.length)
}
