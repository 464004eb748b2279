import { LOOK_STEP, type SoundLooks } from '../align/bands'
import type { Join } from '../edits/editList'
import { clamp, milliseconds, type Frames } from '../time'
import type { Edge } from './edge'
import { agreed, distance, FAR, LOUD, QUIET, roomOf, UNLIKE } from './place'

/** A join between two sounds that say the same and run in step: where to go over from the one to the other. */

/** A place of the sound that was there, the same place of what is laid over it, and how far that is from where it is wanted. */
export interface Pair {
  old: Frames
  laid: Frames
  far: Frames
}

/** A patch should be short, so distance counts more than at a cut. */
const SHORT = 15

/** `side`: on which side of what is laid the join is; on the left the old sound goes and what is laid comes. */
export function joinAlong(
  goes: Edge,
  comes: Edge,
  pairs: readonly Pair[],
  side: 'left' | 'right',
  looks: Record<'target' | 'candidate', SoundLooks>,
): Omit<Pair, 'far'> & { join: Pick<Join, 'fade' | 'shape'>; cost: number } {
  const [old, laid] = side === 'left' ? [goes, comes] : [comes, goes]
  const room = { old: roomOf(looks.target), laid: roomOf(looks.candidate) }
  const ear = milliseconds(5)
  const look = (of: SoundLooks, { start }: Edge, frame: Frames) => clamp(Math.round((frame - start) / LOOK_STEP), 0, of.count - 1)
  const after = side === 'left' ? 1 : -1
  let best = { pair: pairs[0], cost: Infinity, quiet: false }
  for (const pair of pairs) {
    const loud = [
      looks.target.level[look(looks.target, old, pair.old)] - room.old,
      looks.candidate.level[look(looks.candidate, laid, pair.laid)] - room.laid,
    ].map((level) => Math.max(0, level))
    const apart = distance(
      looks.target.bands(look(looks.target, old, pair.old - after * ear)),
      looks.candidate.bands(look(looks.candidate, laid, pair.laid + after * ear)),
    )
    const cost = (LOUD * (loud[0] + loud[1])) / 10 + (UNLIKE * apart) / 10 + (SHORT * FAR * pair.far) / milliseconds(100)
    if (cost < best.cost) best = { pair, cost, quiet: loud[0] < QUIET && loud[1] < QUIET }
  }
  const [x, y] = side === 'left' ? [best.pair.old, best.pair.laid] : [best.pair.laid, best.pair.old]
  const fine = agreed(goes, comes, x, y, { left: { from: x, to: x }, right: { from: y, to: y } }, best.quiet)
  const join = { fade: fine.fade, shape: fine.shape }
  return side === 'left'
    ? { old: fine.left, laid: fine.right, join, cost: best.cost }
    : { old: fine.right, laid: fine.left, join, cost: best.cost }
}
