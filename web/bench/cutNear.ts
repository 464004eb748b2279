import type { Actuality } from '../../core/edits/actuality'
import { edits, type Edit } from '../../core/edits/editList'
import { nearestEdit } from '../../core/edits/sameEdit'
import type { Frames } from '../../core/time'

/** The cut of a piece that is nearest to a place. */
export const cutNear = (piece: Actuality, at: Frames): Edit | undefined => nearestEdit(edits(piece.spans), at)
