import { milliseconds, type Frames, type Stretch } from '../time'
import type { Ramp } from './plan'
import { scramble } from './random'

/**
 * Room tone as short grains of a tape's own quiet stretches, each crossfaded into the next. The
 * grains lie on a grid that is fixed to the tape, so tone that was cut in two or joined again
 * sounds as it did.
 */

const LONGEST_GRAIN = milliseconds(600)
const SHORTEST_GRAIN = milliseconds(120)

interface Grain {
  /** Where it sounds, in frames of the tone's own time line. */
  at: Frames
  length: Frames
  /** Where it is taken from. */
  from: Frames
  ramps: Ramp[]
}

/** Grains for `[from, to)` of the endless tone of a tape. Empty where there is nothing to take it from. */
export function toneGrains(tape: string, quiet: readonly Stretch[], from: Frames, to: Frames): Grain[] {
  const longest = Math.max(0, ...quiet.map((stretch) => stretch.to - stretch.from))
  // of a short stretch many small parts: few large ones would be of its middle alone
  const length = Math.min(LONGEST_GRAIN, Math.max(SHORTEST_GRAIN, Math.floor(longest / 6)), longest)
  if (length < SHORTEST_GRAIN) return []
  const fade = Math.floor(length / 3)
  const hop = length - fade
  const usable = quiet.filter((stretch) => stretch.to - stretch.from >= length)
  const room = usable.map((stretch) => stretch.to - stretch.from - length + 1)
  const total = room.reduce((sum, frames) => sum + frames, 0)
  const grains: Grain[] = []
  for (let index = Math.floor((from - length) / hop) + 1; index * hop < to; index++) {
    const start = index * hop
    let pick = scramble(tape, index) % total
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
