import { applyAll } from '../steps/document'
import type { Stretch } from '../time'
import { actualityType, type Actuality, type ActualityStep } from './actuality'

/**
 * Steps over several stretches of a piece, made from the last to the first, so that what changes at one moves none before
 * it. The stretches are in order, none over another. Throws RangeError if nothing of the piece would be left for the
 * earlier ones.
 */
export function overEach(
  piece: Actuality,
  stretches: readonly Stretch[],
  make: (now: Actuality, stretch: Stretch, index: number) => ActualityStep[],
): ActualityStep[] {
  const all: ActualityStep[] = []
  let now = piece
  for (let i = stretches.length - 1; i >= 0; i--) {
    const steps = make(now, stretches[i], i)
    all.push(...steps)
    if (i > 0) now = applyAll(actualityType, now, steps)
  }
  return all
}
