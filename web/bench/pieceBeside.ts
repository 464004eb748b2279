import type { PieceRow } from '../../contract/desk'
import { BLOCK_KINDS, spineOf } from '../../core/page/story'
import { get } from '../api/client'
import { liveDocument } from '../documents/useDocument'

/**
 * The next or previous piece of a story: in the order of its page, and those that are not on it after that. Null where
 * there is no other.
 */
export async function pieceBeside(story: string, id: string, by: 1 | -1): Promise<string | null> {
  const [page, rows] = await Promise.all([liveDocument(story, 'story'), get<PieceRow[]>(`/pieces?story=${story}`)])
  const onPage = spineOf(page.body).flatMap(({ kind, piece }) => (!BLOCK_KINDS[kind].written && piece ? [piece] : []))
  const all = [...onPage, ...rows.filter((row) => !row.aside && !onPage.includes(row.id)).map((row) => row.id)]
  const next = all[(all.indexOf(id) + by + all.length) % all.length]
  return next && next !== id ? next : null
}
