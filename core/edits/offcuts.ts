import type { Stretch } from '../time'
import type { Actuality, ActualityStep, Offcut } from './actuality'
import { takeOut } from './acts'
import { plainJoin, slice, type Join } from './editList'
import { putIn } from './order'
import { keptOf } from './piece'

/** What was set aside from a piece: out of it, still at hand. Places are frames of the piece. */

export const offcutsOf = (piece: Pick<Actuality, 'kept'>): Offcut[] => keptOf(piece, 'offcut')

/** Takes a stretch out and keeps it, with all that was done within it, as an offcut of this id. */
export const setAside = (
  piece: Actuality,
  stretch: Stretch,
  as: Pick<Offcut, 'id' | 'at'>,
  join: Join = plainJoin(),
  pause = 0,
): ActualityStep[] => [
  ...takeOut(piece, stretch, join, pause),
  { type: 'keep', step: { type: 'put', record: { ...as, kind: 'offcut', spans: slice(piece.spans, stretch.from, stretch.to) } } },
]

/** Puts an offcut in at a place of the piece. */
export const takeBack = (piece: Actuality, offcut: Offcut, place: number): ActualityStep[] => [
  ...putIn(piece, offcut.spans, place),
  ...dropOffcut(offcut),
]

export const dropOffcut = ({ id }: Offcut): ActualityStep[] => [{ type: 'keep', step: { type: 'drop', id } }]
