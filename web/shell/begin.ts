import type { QueryClient } from '@tanstack/react-query'
import { liveDocument, liveTranscript } from '../documents/useDocument'
import { peakCache } from '../sound/peakCache'
import { tapeQuery } from '../api/queries'

/** Asks for what the first view needs before there is a view: the address says what that is. */
export function begin(queries: QueryClient): void {
  const [, kind, id] = location.pathname.split('/')
  if (kind !== 'tapes' || !id) return
  void queries.prefetchQuery(tapeQuery(id))
  void liveTranscript(id).catch(() => undefined)
  void liveDocument(id, 'tape').catch(() => undefined) // the view says what is wrong
  peakCache.chunk(id, 0, 0, 0)
}
