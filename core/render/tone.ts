import { firstWhere } from '../search'
import { milliseconds, RATE, type Frames, type Stretch } from '../time'
import type { Ramp } from '../sound/fade'
import { scramble } from '../sound/random'

/**
 * Room tone as short grains of a tape's own quiet stretches, each crossfaded into the next, and each
 * from near where it sounds: the room there, not that of another minute. The grains lie on a grid
 * that is fixed to the tape, so tone that was cut in two or joined again sounds as it did.
 */

const LONGEST_GRAIN = milliseconds(600)
const SHORTEST_GRAIN = milliseconds(120)
/** A grain comes from no further away than this where there is enough quiet, else from twice as far, and so on. */
const NEAR: Frames = 15 * RATE
/** So much quiet is enough, to choose from. */
const ENOUGH: Frames = RATE / 2

interface Grain {
  /** Where it sounds, in frames of the tone's own time line. */
  at: Frames
  length: Frames
  /** Where it is taken from. */
  from: Frames
  ramps: Ramp[]
}

/** The quiet of a tape in its order, and how long its grains are. */
interface Quiet {
  stretches: readonly Stretch[]
  grain: Frames
}

/** Of a short stretch many small parts: few large ones would be of its middle alone. */
const grainOf = (total: Frames, longest: Frames): Frames =>
  Math.min(LONGEST_GRAIN, Math.max(SHORTEST_GRAIN, Math.floor(total / 6)), longest)

/** What was worked out for a list of stretches is kept with it: lists never change. */
const known = new WeakMap<readonly Stretch[], Quiet>()

function quietOf(quiet: readonly Stretch[]): Quiet {
  let found = known.get(quiet)
  if (found) return found
  const stretches = [...quiet].sort((a, b) => a.from - b.from)
  // the grid is one for all of the tape, so its grains are as short as is right where there is least to choose from
  let grain = LONGEST_GRAIN
  for (const { from } of stretches) {
    const { total, longest } = sumOf(near(stretches, from, SHORTEST_GRAIN))
    if (longest >= SHORTEST_GRAIN) grain = Math.min(grain, grainOf(total, longest))
  }
  found = { stretches, grain }
  known.set(quiet, found)
  return found
}

function sumOf(stretches: readonly Stretch[]): { total: Frames; longest: Frames } {
  let [total, longest] = [0, 0]
  for (const { from, to } of stretches) {
    total += to - from
    longest = Math.max(longest, to - from)
  }
  return { total, longest }
}

/** The stretches of at least some length that lie around a place, further off the less there is near it. */
function near(stretches: readonly Stretch[], place: Frames, least: Frames): Stretch[] {
  for (let reach = NEAR; ; reach *= 2) {
    const first = firstWhere(stretches.length, (i) => stretches[i].to >= place - reach)
    const last = firstWhere(stretches.length, (i) => stretches[i].from > place + reach)
    const found = stretches.slice(first, last).filter(({ from, to }) => to - from >= least)
    if (sumOf(found).total >= ENOUGH || (first === 0 && last === stretches.length)) return found
  }
}

/** Grains for `[from, to)` of the endless tone of a tape. Empty where there is nothing to take it from. */
export function toneGrains(tape: string, quiet: readonly Stretch[], from: Frames, to: Frames): Grain[] {
  const { stretches, grain: length } = quietOf(quiet)
  if (!stretches.some((stretch) => stretch.to - stretch.from >= length)) return []
  const fade = Math.floor(length / 3)
  const hop = length - fade
  const grains: Grain[] = []
  for (let index = Math.floor((from - length) / hop) + 1; index * hop < to; index++) {
    const start = index * hop
    const usable = near(stretches, start, length)
    const room = usable.map((stretch) => stretch.to - stretch.from - length + 1)
    let pick = scramble(tape, index) % room.reduce((sum, frames) => sum + frames, 0)
    let stretch = 0
    while (pick >= room[stretch]) pick -= room[stretch++]
    const source = usable[stretch].from + pick
    const at = Math.max(start, from)
    const end = Math.min(start + length, to)
    if (end <= at) continue
    grains.push({
      at,
      length: end - at,
      from: source + at - start,
      ramps: [
        { at: start, length: fade, rise: true, shape: 'power' },
        { at: start + hop, length: fade, rise: false, shape: 'power' },
      ],
    })
  }
  return grains
}
