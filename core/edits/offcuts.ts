import type { Stretch } from '../time'
import type { Actuality, ActualityStep, Offcut } from './actuality'
import { takeOut } from './acts'
import { plainJoin, slice, type Join } from './editList'
import { putIn } from './order'

/** What was set aside from a piece: out of it, still at hand. Places are frames of the piece. */

export const offcutsOf = ({ offcuts }: Pick<Actuality, 'offcuts'>): readonly Offcut[] => offcuts ?? []

const listed = (value: readonly Offcut[]): ActualityStep => ({ type: 'set', key: 'offcuts', value })

/** Takes a stretch out and keeps it, with all that was done within it. `at`: when, as an ISO 8601 date. */
export const setAside = (piece: Actuality, stretch: Stretch, at: string, join: Join = plainJoin(), pause = 0): ActualityStep[] => [
  ...takeOut(piece, stretch, join, pause),
  listed([...offcutsOf(piece), { at, spans: slice(piece.spans, stretch.from, stretch.to) }]),
]

/** Puts an offcut in at a place of the piece. */
export const takeBack = (piece: Actuality, offcut: Offcut, place: number): ActualityStep[] => [
  ...putIn(piece, offcut.spans, place),
  ...dropOffcut(piece, offcut),
]

export const dropOffcut = (piece: Actuality, { at }: Offcut): ActualityStep[] => [listed(offcutsOf(piece).filter((one) => one.at !== at))]
