import { useQueries, useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import type { Desk, PieceRow } from '../../contract/desk'
import type { StoredDocument } from '../../contract/documents'
import type { Receipt } from '../../contract/sends'
import { toneSound, type TapeInfo, type Use } from '../../contract/tapes'
import type { FactsOf } from '../../core/sound/plan'
import type { Word } from '../../core/tape/words'
import { wordsOf, type Transcript } from '../../core/transcript/transcript'
import { get } from './client'

export const useDesk = () => useQuery({ queryKey: ['desk'], queryFn: () => get<Desk>('/desk') })
export const tapesQuery = { queryKey: ['tapes'], queryFn: () => get<TapeInfo[]>('/tapes') }
export const useTapes = () => useQuery(tapesQuery)
export const tapeQuery = (id: string) => ({ queryKey: ['tape', id], queryFn: () => get<TapeInfo>(`/tapes/${id}`) })
export const useTape = (id: string) => useQuery(tapeQuery(id))
export const useUses = (id: string) => useQuery({ queryKey: ['uses', id], queryFn: () => get<Use[]>(`/tapes/${id}/uses`) })
export const usePieces = (story?: string) =>
  useQuery({ queryKey: ['pieces', story ?? 'all'], queryFn: () => get<PieceRow[]>(story ? `/pieces?story=${story}` : '/pieces') })
export const useReceipts = (of: string) => useQuery({ queryKey: ['sends', of], queryFn: () => get<Receipt[]>(`/sends?of=${of}`) })

export const wordsQuery = (id: string) => ({ queryKey: ['words', id], queryFn: async () => (await get<StoredDocument & { body: Transcript }>(`/tapes/${id}/words`)).body, staleTime: Infinity, structuralSharing: false as const })

/** What the renderer must know of tapes, and their words; null until all of it is here. `known`: words that are at hand already. */
export function useFacts(ids: readonly string[], known?: { tape: string; words: Word[] } | null): { factsOf: FactsOf; wordsOf: (tape: string) => Word[]; tapes: TapeInfo[] } | null {
  const tapes = useTapes().data
  const words = useQueries({ queries: ids.map((id) => ({ ...wordsQuery(id), enabled: known === undefined })) })
  const complete = tapes && known !== null && (known || words.every((query) => query.data))
  const key = words.map((query) => query.dataUpdatedAt).join()
  return useMemo(() => {
    if (!complete) return null
    const rows = new Map(tapes.map((tape) => [tape.id, tape]))
    const texts = known ? new Map([[known.tape, known.words]]) : new Map(ids.map((id, i) => [id, wordsOf(words[i].data!)]))
    return {
      tapes,
      wordsOf: (tape) => texts.get(tape) ?? [],
      factsOf: (id) => {
        const tape = rows.get(id)
        if (!tape) return { id, frames: 0, sides: [], tone: { sound: id, quiet: [] } }
        return { id, frames: tape.frames, sides: tape.sides, tone: { sound: toneSound(tape), quiet: tape.tone.quiet } }
      },
    }
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [tapes, complete, ids.join(), key, known?.words])
}
