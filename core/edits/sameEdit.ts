import { milliseconds, type Frames } from '../time'
import { edits, type Edit, type EditList } from './editList'

/** An edit that was placed anew is still the same within this. */
const NEAR: Frames = milliseconds(300)

/** The edit that lies nearest to a place; undefined if there is none. */
export const nearestEdit = (all: readonly Edit[], at: Frames): Edit | undefined =>
  all.reduce<Edit | undefined>((best, one) => (!best || Math.abs(one.at - at) < Math.abs(best.at - at) ? one : best), undefined)

/**
 * What an edit of a piece has become, near a place: one of its sides ends or begins where it did, or it lies near by.
 * Undefined where it is gone.
 */
export function editNow(spans: EditList, before: Pick<Edit, 'left' | 'right'> | undefined, at: Frames): Edit | undefined {
  const all = edits(spans)
  const sided = before
    ? all.filter(
        ({ left, right }) =>
          (left.tape === before.left.tape && left.to === before.left.to) ||
          (right.tape === before.right.tape && right.from === before.right.from),
      )
    : []
  return (
    nearestEdit(sided, at) ??
    nearestEdit(
      all.filter((one) => Math.abs(one.at - at) <= NEAR),
      at,
    )
  )
}
