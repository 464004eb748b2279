import type { Frames } from '../time'
import { part, RANKS, type Change } from './change'

/** Which of the changes that a page offers bring it to its slot. */

/** Of more sentences than this no set is tried in turn. */
const MANY = 14

export interface Fit {
  changes: Change[]
  /** What these come to, in frames. */
  saves: Frames
  /** By how much the page still misses its slot once all is done, in frames; 0 where it is in reach. */
  missing: Frames
  /** What goes too much because nothing that is chosen can be done in part: room that is to be added, in frames. */
  tooMuch: Frames
}

interface Used {
  partial: Change[]
  whole: Change[]
}

/**
 * `need`: frames that the page must lose, or gain where it is below 0. Ranks are used up one after the other; of the last one that
 * is needed, as little as will do. What is too much then is given back, from the last rank on; within a rank, what is done in
 * parts is shared out evenly.
 */
export function fit(changes: readonly Change[], need: Frames): Fit {
  const sign = Math.sign(need)
  const size = ({ saves }: Change) => sign * saves
  const sum = (some: readonly Change[]) => some.reduce((total, change) => total + size(change), 0)
  const useful = changes.filter((change) => size(change) > 0)
  const used: Used[] = []
  let left = Math.abs(need)
  for (const rank of RANKS) {
    if (left <= 0) break
    const group = useful.filter((change) => change.rank === rank)
    const partial = group.filter(({ partly }) => partly)
    const all = group.filter(({ partly }) => !partly)
    const whole = sum(partial) >= left ? [] : least(all, left - sum(partial), size)
    used.push({ partial, whole })
    left -= sum(partial) + sum(whole)
  }
  let over = Math.max(0, -left)
  const kept = used.reverse().flatMap(({ partial, whole }): Change[] => {
    const needed = whole.filter((change) => {
      if (size(change) > over) return true
      over -= size(change)
      return false
    })
    const wanted = Math.max(0, sum(partial) - over)
    over -= sum(partial) - wanted
    return [...needed, ...shared(partial, wanted, sign)]
  })
  const chosen = kept.reverse()
  return { changes: chosen, saves: sign * sum(chosen), missing: Math.max(0, left), tooMuch: over }
}

/** Of changes that are done whole, the set that comes to at least `wanted` with the least too much; all where all do not suffice. */
function least(changes: readonly Change[], wanted: Frames, size: (change: Change) => Frames): Change[] {
  const all = changes.reduce((sum, change) => sum + size(change), 0)
  if (all <= wanted) return [...changes]
  const few = [...changes].sort((a, b) => size(b) - size(a)).slice(0, MANY)
  let best: Change[] = [...changes]
  let bestSum = all
  for (let set = 1; set < 1 << few.length; set++) {
    const some = few.filter((_, i) => set & (1 << i))
    const sum = some.reduce((total, change) => total + size(change), 0)
    if (sum >= wanted && sum < bestSum) [best, bestSum] = [some, sum]
  }
  return best
}

/** Of each change its share, so many frames in all. */
function shared(changes: readonly Change[], wanted: Frames, sign: number): Change[] {
  const all = changes.reduce((sum, { saves }) => sum + sign * saves, 0)
  let [done, given] = [0, 0]
  return changes.flatMap((change): Change[] => {
    done += sign * change.saves
    const own = Math.round((wanted * done) / Math.max(1, all)) - given
    given += own
    return own > 0 ? [part(change, sign * own)] : []
  })
}
