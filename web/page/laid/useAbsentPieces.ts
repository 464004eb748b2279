import { useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import type { Actuality } from '../../../core/edits/actuality'
import { piecesIn, type StoryDocument } from '../../../core/page/story'
import { onNotice } from '../../api/notices'

/**
 * Asks for the pieces of a story anew where its page uses one that is not among them: of a piece that belongs to another story, or
 * to none, the server knows only once the page is kept that it is one of these.
 */
export function useAbsentPieces(id: string, body: StoryDocument, known: ReadonlyMap<string, Actuality> | null): void {
  const queries = useQueryClient()
  const absent = known ? piecesIn(body).filter((piece) => !known.has(piece)) : []
  const key = absent.join()
  useEffect(() => {
    if (!key) return
    const ask = () => void queries.invalidateQueries({ queryKey: ['pieces', 'story', id] })
    ask()
    return onNotice((notice) => {
      if (typeof notice === 'object' && notice.about === 'document' && notice.id === id) ask()
    })
  }, [queries, id, key])
}
