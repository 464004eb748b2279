import type { Stretch } from '../../time'
import { LOOK, type Looks } from './looks'
import { overRoom, type OverRoom } from './floor'

/** Where something sounds above the room, and what it is: a voice, a breath, or neither (a click, a thump, a knock). */

/** Above the room, in dB over all bands: something sounds. Once begun, it goes on to a lower level. */
const [BEGINS, GOES_ON] = [1.6, 0.9]
/** What lasts for so many looks on either side is told from the room by less. */
const [LASTING, FAINTLY] = [5, 0.5]
/** A voice rings so much, and stands so far above the room. */
const RINGS = 0.55
const VOICED_OVER = 1.5
/** What hisses this close to ringing belongs to it, in looks: consonants before, and after. */
const [BEFORE, AFTER] = [16, 22]
/** A voice rings for this long at least, in looks. */
const SHORTEST_VOICE = 4
/** Gaps this short lie within words, in looks. */
const WITHIN = 3

export interface Sounding {
  looks: Looks
  room: OverRoom
  /** What each look is. */
  voiced: Uint8Array
  heard: Uint8Array
  /** Stretches of voice, consonants included, in looks. */
  voices: Stretch[]
  /** What else sounds, in looks. */
  others: Stretch[]
  /** Level of the voice that belongs here, dBFS; -Infinity where there is none. */
  level: number
}

/** Runs of looks for which something holds, with gaps up to `most` closed. */
export function runsOf(count: number, holds: (i: number) => boolean, most = 0): Stretch[] {
  const runs: Stretch[] = []
  for (let i = 0; i < count; i++) {
    if (!holds(i)) continue
    const last = runs.at(-1)
    if (last && i - last.to <= most) last.to = i + 1
    else runs.push({ from: i, to: i + 1 })
  }
  return runs
}

/** Means over so many looks on either side. */
function means(values: Float32Array, reach: number): Float32Array {
  const out = new Float32Array(values.length)
  let sum = 0
  for (let i = -reach; i < values.length; i++) {
    sum += values[i + reach] ?? 0
    if (i > reach) sum -= values[i - reach - 1]
    if (i >= 0) out[i] = sum / (2 * reach + 1)
  }
  return out
}

export function soundingOf(looks: Looks): Sounding {
  const { count, ringing, level } = looks
  const room = overRoom(looks)
  const heard = new Uint8Array(count)
  for (let i = 0; i < count; i++) heard[i] = room.sum[i] >= (i && heard[i - 1] ? GOES_ON : BEGINS) ? 1 : 0
  // a soft beginning counts as well
  for (let i = count - 2; i >= 0; i--) if (heard[i + 1] && room.sum[i] >= GOES_ON) heard[i] = 1
  const voiced = new Uint8Array(count)
  for (let i = 0; i < count; i++) voiced[i] = heard[i] && ringing[i] >= RINGS && room.sum[i] >= VOICED_OVER ? 1 : 0
  const nuclei = runsOf(count, (i) => voiced[i] === 1, WITHIN).filter(({ from, to }) => to - from >= SHORTEST_VOICE)
  const voices: Stretch[] = []
  for (const { from, to } of nuclei) {
    let [first, last] = [from, to]
    while (first > 0 && from - first < BEFORE && heard[first - 1]) first--
    while (last < count && last - to < AFTER && heard[last]) last++
    const before = voices.at(-1)
    if (before && first - before.to <= WITHIN) before.to = Math.max(before.to, last)
    else voices.push({ from: first, to: last })
  }
  const isVoice = new Uint8Array(count)
  for (const { from, to } of voices) isVoice.fill(1, from, to)
  const lasting = means(room.sum, LASTING)
  const others = runsOf(count, (i) => (heard[i] === 1 || lasting[i] >= FAINTLY) && !isVoice[i], 1).map(({ from, to }) => {
    // a mean reaches beyond what it is of
    while (from < to && room.sum[from] < FAINTLY) from++
    while (to > from && room.sum[to - 1] < FAINTLY) to--
    return { from, to }
  })
  return { looks, room, voiced, heard, voices, others, level: ownLevel(level, voiced) }
}

/** What lies so far below the mean is somebody else's voice, heard faintly, in dB. */
const FAINT = 10

/** The middle of what rings, without what is only heard faintly. */
function ownLevel(level: Float32Array, voiced: Uint8Array): number {
  const ringing = level.filter((_, i) => voiced[i] === 1).sort()
  if (!ringing.length) return -Infinity
  const power = ringing.reduce((sum, one) => sum + 10 ** (one / 10), 0) / ringing.length
  const own = ringing.filter((one) => one > 10 * Math.log10(power) - FAINT)
  return own[own.length >> 1]
}

/** Looks as frames of the tape. */
export const inFrames = ({ from, to }: Stretch): Stretch => ({ from: from * LOOK, to: to * LOOK })
