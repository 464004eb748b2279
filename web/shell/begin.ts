import type { QueryClient } from '@tanstack/react-query'
import { tapesOn } from '../../core/page/tapesOn'
import { storyPiecesQuery, tapeQuery, wordsQuery } from '../api/queries'
import { liveDocument, liveTranscript } from '../documents/useDocument'
import { peakCache } from '../sound/peakCache'

/** Asks for what the first view needs before there is a view: the address says what that is. The view says what is wrong with it. */
export function begin(queries: QueryClient): void {
  const [, kind, id] = location.pathname.split('/')
  if (!id) return
  if (kind === 'tapes') {
    void queries.prefetchQuery(tapeQuery(id))
    void liveTranscript(id).catch(() => undefined)
    void liveDocument(id, 'tape').catch(() => undefined)
    peakCache.chunk(id, 0, 0, 0)
  }
  if (kind === 'pieces') void liveDocument(id, 'actuality').catch(() => undefined)
  if (kind === 'stories') void beginPage(queries, id).catch(() => undefined)
}

/** A page, and as soon as it is known which these are, its tapes with their words: that is most of what it waits for. */
async function beginPage(queries: QueryClient, id: string): Promise<void> {
  const [{ body }, rows] = await Promise.all([liveDocument(id, 'story'), queries.fetchQuery(storyPiecesQuery(id))])
  const spans = new Map(rows.map((row) => [row.id, row.body.spans]))
  for (const tape of tapesOn(body, (piece) => spans.get(piece))) {
    void queries.prefetchQuery(tapeQuery(tape))
    void queries.prefetchQuery(wordsQuery(tape))
  }
}
