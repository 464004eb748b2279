import type { Frames, Stretch } from '../time'
import { DIGITAL_SILENCE, LOOK, type Levels } from './levels'

const OVER_FLOOR = 9
const SOFTEST = -62
/** Of the sound of speech so much lies where speech does; of rumble, wind and handling less. */
const LEAST_SHARE = 0.25
const LONGEST_GAP = 12
const SHORTEST_RUN = 6
const HANGOVER = 3
/** By so much speech is taken to go on after it was last heard, so that no soft end is lost. */
export const SPEECH_HANGOVER: Frames = HANGOVER * LOOK

export interface SpeechFigures {
  /** Where somebody speaks, as found by energy and spectrum. */
  speech: Stretch[]
  /** Mean level while somebody speaks, in dBFS (the idea of ITU-T P.56: pauses do not count); -Infinity without speech. */
  level: number
  /** Level of the room: what nine tenths of the looks are above, in dBFS. */
  floor: number
}

const dB = (power: number): number => (power > 0 ? 10 * Math.log10(power) : -Infinity)

export function speechOf({ all, band }: Pick<Levels, 'all' | 'band'>): SpeechFigures {
  const rooms = (powers: ArrayLike<number>) =>
    Float64Array.from(powers)
      .filter((power) => dB(power) > DIGITAL_SILENCE)
      .sort()
  const low = (sorted: Float64Array, share: number) => (sorted.length ? sorted[Math.floor((sorted.length - 1) * share)] : 0)
  const bandFloor = dB(low(rooms(band), 0.1))
  const heard = Array.from({ length: band.length }, (_, i) => {
    const level = dB(band[i])
    return level > bandFloor + OVER_FLOOR && level > SOFTEST && band[i] > all[i] * LEAST_SHARE
  })
  const runs = closed(heard)
  let power = 0
  let count = 0
  for (const { from, to } of runs)
    for (let i = from; i < to; i++)
      if (heard[i]) {
        power += all[i]
        count++
      }
  return {
    speech: runs.map(({ from, to }) => ({ from: from * LOOK, to: Math.min(all.length, to + HANGOVER) * LOOK })),
    level: count ? dB(power / count) : -Infinity,
    floor: dB(low(rooms(all), 0.1)),
  }
}

/** Runs of what was heard, with short gaps closed and mere clicks left out. */
function closed(heard: readonly boolean[]): Stretch[] {
  const runs: Stretch[] = []
  for (let i = 0; i < heard.length; i++) {
    if (!heard[i]) continue
    const last = runs.at(-1)
    if (last && i - last.to <= LONGEST_GAP) last.to = i + 1
    else runs.push({ from: i, to: i + 1 })
  }
  return runs.filter(({ from, to }) => to - from >= SHORTEST_RUN)
}
