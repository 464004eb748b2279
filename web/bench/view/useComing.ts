import { useEffect } from 'react'
import { useSearchParams } from 'react-router'
import type { Actuality } from '../../../core/edits/actuality'
import { fromTape } from '../../../core/edits/editList'
import type { Frames } from '../../../core/time'

/** Whoever comes from a tape stands at the same sound in the piece; whoever comes to a place of the piece stands there. */
export function useComing(piece: Actuality, goTo: (frame: Frames) => void): void {
  const [params] = useSearchParams()
  const tapeAt = params.get('tapeAt')
  const at = params.get('at')
  useEffect(() => {
    if (at !== null) goTo(Number(at))
    if (tapeAt === null) return
    const position = fromTape(piece.spans, piece.spans[0].tape, Number(tapeAt))
    if (position !== null) goTo(position)
    // once, on coming here
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [tapeAt, at])
}
