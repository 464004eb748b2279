import { clipLength, type Actuality } from '../../core/edits/actuality'
import { piecePlan } from '../../core/page/plan'
import { planOf, type FactsOf, type Plan } from '../../core/render/plan'
import { toFrames } from '../../core/time'
import { loudnessOf } from '../sound/hear'

/** How loud pieces and beds are, in LUFS (ITU-R BS.1770, gated); each is listened to once. */

const pieces = new WeakMap<Actuality, Promise<number>>()
/** Of a bed so much tells how loud it is. */
const ENOUGH = toFrames(30)

/** Of the words of a piece, without its handles. */
export function loudnessOfPiece(piece: Actuality, factsOf: FactsOf): Promise<number> {
  const before = pieces.get(piece)
  if (before) return before
  const found = loudnessOf(piecePlan(piece, factsOf), { from: piece.head, to: clipLength(piece) - piece.tail })
  pieces.set(piece, found)
  found.catch(() => pieces.delete(piece))
  return found
}

/** Of a stretch of tape, as it is before anything is done to it on a page. */
export function loudnessOfTape(tape: string, from: number, to: number, factsOf: FactsOf): Promise<number> {
  const plan: Plan = planOf([{ tape, from, to: Math.min(to, from + ENOUGH), sound: 'tape' }], factsOf)
  return loudnessOf(plan, { from: 0, to: plan.length })
}

export const middleOf = (values: readonly number[]): number | null => {
  const sorted = values.filter(Number.isFinite).sort((a, b) => a - b)
  return sorted.length ? sorted[sorted.length >> 1] : null
}
