import { useCallback, useRef, useState } from 'react'
import { clipLength } from '../../../core/edits/actuality'
import { edits, type Edit } from '../../../core/edits/editList'
import { editNow } from '../../../core/edits/sameEdit'
import type { Frames } from '../../../core/time'
import type { LiveDocument } from '../../documents/liveDocument'
import { keptNow } from '../../ui/useKept'

/**
 * Which join of a piece is worked on: it stays the same one while the piece changes around it, is undone, or the join
 * itself is placed anew.
 */
export function useChosenJoin(owner: string, live: LiveDocument<'actuality'>) {
  const piece = () => live.body
  const [first] = useState<Edit | undefined>(() => {
    const [firstOfAll] = edits(piece().spans)
    const at = keptNow.get<Frames | null>(`${owner}/join`, firstOfAll?.at ?? null)
    return at === null ? undefined : editNow(piece().spans, undefined, at)
  })
  const [chosen, show] = useState<Frames | null>(first?.at ?? null)
  const known = useRef<{ at: Frames | null; edit?: Edit }>({ at: chosen, edit: first })

  const setChosen = useCallback(
    (at: Frames | null) => {
      const { spans } = live.body
      known.current = { at, edit: edits(spans).find((one) => one.at === at) }
      keptNow.set(`${owner}/join`, at)
      show(at)
    },
    [live, owner],
  )

  /** Goes along with an edit of the piece, given where places of it lie now. */
  const followJoin = (placeNow: (at: Frames) => Frames) => {
    const { at, edit } = known.current
    if (at === null) return
    const place = placeNow(at)
    const atEnd = place === 0 || place === clipLength(piece())
    setChosen((atEnd ? undefined : editNow(piece().spans, edit, place))?.at ?? place)
  }
  return { chosen, setChosen, followJoin }
}
