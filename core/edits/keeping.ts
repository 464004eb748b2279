import { recordsType, type Bag } from '../steps/records'
import type { Keep } from './actualitySteps'
import type { Actuality, Kept } from './piece'

/** What is kept beside a piece, as records that change one by one: two who keep something at once never meet. */

const bagType = recordsType<Kept, { records: Bag<Kept> }>()

/** Throws RangeError where the record is there already, or is not there. */
export function applyKeep({ kept, ...piece }: Actuality, { step }: Keep): Actuality {
  const { records } = bagType.apply({ records: kept ?? {} }, step)
  return Object.keys(records).length ? { ...piece, kept: records } : piece
}

export const invertKeep = ({ kept }: Actuality, { step }: Keep): Keep => ({
  type: 'keep',
  step: bagType.invert({ records: kept ?? {} }, step),
})

export function overKeep({ step }: Keep, over: Keep): Keep | null {
  const rebased = bagType.rebase(step, over.step)
  return rebased && { type: 'keep', step: rebased }
}
