import { levelsOf, OVER_FLOOR_DB } from './turns'

/** Somebody speaks where it is no further below the level of speech than this, in dB. */
const SPOKEN_DB = 18
/** So many looks around speech count as speech, too: pauses between words, and what a line is late. 0.3 s. */
const AROUND = 15
/** Of a mix so much at least is one speaker, and so much the others. */
const LEAST_SHARE = 0.15
/** And in looks: 2 s. */
const LEAST = 100
/** Of what the one speaks on their own recording, no more than this is missing in the mix. */
const MOST_MISSING = 0.2
/** In a mix all voices are about equally loud, in dB; what a microphone catches of somebody further away is softer. */
const ALIKE_DB = 9

/**
 * Which of several recordings of one conversation holds several voices mixed, as a call's own recording does: all that
 * somebody says on a recording of their own is on it, and besides somebody else, about as loud. `looks`: the mean square
 * of each look (20 ms), all on one clock; 0 where a recording does not reach.
 */
export function mixedAmong(looks: readonly ArrayLike<number>[]): boolean[] {
  const count = Math.max(0, ...looks.map(({ length }) => length))
  const all = looks.map((own) => spokenOn(own, count))
  const mixed = all.map((one, i) => all.some((other, j) => i !== j && holds(one, other)))
  // two that hold one another are two microphones in one room
  return mixed.map((is, i) => is && !all.some((other, j) => i !== j && mixed[j] && holds(other, all[i]) && holds(all[i], other)))
}

interface Spoken {
  levels: Float32Array
  /** 1 where somebody speaks. */
  spoken: Uint8Array
  /** The same with what is around it. */
  around: Uint8Array
  /** 1 where the recording reaches. */
  there: Uint8Array
}

function spokenOn(looks: ArrayLike<number>, count: number): Spoken {
  const { levels, floor, speech } = levelsOf(looks, count)
  const spoken = Uint8Array.from(levels, (level) => Number(level > floor + OVER_FLOOR_DB && level > speech - SPOKEN_DB))
  const around = new Uint8Array(count)
  spoken.forEach((on, i) => on && around.fill(1, Math.max(0, i - AROUND), i + AROUND + 1))
  return { levels, spoken, around, there: Uint8Array.from({ length: count }, (_, i) => Number((looks[i] ?? 0) > 0)) }
}

/** Whether one holds all of another's speaker, and as much of others. */
function holds(one: Spoken, other: Spoken): boolean {
  const both: number[] = []
  const without: number[] = []
  let missing = 0
  let said = 0
  for (let i = 0; i < one.spoken.length; i++) {
    if (!one.there[i] || !other.there[i]) continue
    if (other.spoken[i]) {
      said++
      if (!one.around[i]) missing++
    }
    if (one.spoken[i]) (other.around[i] ? both : without).push(one.levels[i])
  }
  const all = both.length + without.length
  if (Math.min(both.length, without.length) < Math.max(LEAST, LEAST_SHARE * all) || missing > MOST_MISSING * said) return false
  return Math.abs(loud(both) - loud(without)) < ALIKE_DB
}

/** The level of speech: what a tenth of it is above. */
const loud = (levels: number[]): number => levels.sort((a, b) => a - b)[Math.floor(levels.length * 0.9)]
