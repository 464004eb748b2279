import { factor } from '../sound/level'
import type { Frames, Stretch } from '../time'
import { fitPredictor, leastError } from './leastError'

/**
 * What was cut off at the top is made anew of what is left (`leastError.ts`); what comes lies at least as high as it was cut off, on its
 * own side. The predictor is fitted anew to what was made so far.
 */
export interface Clipping {
  kind: 'clipping'
  /** Frames from this level on are taken to be clipped, in dBFS. */
  at: number
}

const ORDER = 64
/** Spots within so many frames are made together, from so many more on either side. */
const BLOCK: Frames = 1024
const AROUND: Frames = 1024
const PASSES = 3
/** What comes too low is set to where it was cut off, and the others are made anew, so often. */
const ROUNDS = 4

/** Restores what was clipped in a run, in place; gives where it was. */
export function withoutClipping({ at }: Clipping, samples: Float64Array): Stretch[] {
  const top = factor(at)
  const spots: Frames[] = []
  for (let i = 0; i < samples.length; i++) if (samples[i] >= top || samples[i] <= -top) spots.push(i)
  const sides = new Map(spots.map((spot) => [spot, samples[spot] > 0 ? 1 : -1]))
  const own = new Float64Array(ORDER + 1)
  for (let pass = 0; pass < PASSES; pass++)
    for (let first = 0; first < spots.length;) {
      const from = spots[first]
      let last = first
      while (last < spots.length && spots[last] < from + BLOCK) last++
      fitPredictor(samples.subarray(Math.max(0, from - AROUND), Math.min(samples.length, from + BLOCK + AROUND)), own)
      restore(samples, spots.slice(first, last), sides, top, own)
      first = last
    }
  return runsOf(spots)
}

function restore(samples: Float64Array, spots: readonly Frames[], sides: Map<Frames, number>, top: number, own: Float64Array): void {
  let open = spots
  for (let round = 0; round < ROUNDS && open.length; round++) {
    leastError(samples, open, own)
    const high = open.filter((spot) => samples[spot] * sides.get(spot)! >= top)
    for (const spot of open) if (samples[spot] * sides.get(spot)! < top) samples[spot] = sides.get(spot)! * top
    if (high.length === open.length) return
    open = high
  }
}

function runsOf(spots: readonly Frames[]): Stretch[] {
  const runs: Stretch[] = []
  for (const at of spots) {
    const last = runs[runs.length - 1]
    if (last?.to === at) runs[runs.length - 1] = { from: last.from, to: at + 1 }
    else runs.push({ from: at, to: at + 1 })
  }
  return runs
}
