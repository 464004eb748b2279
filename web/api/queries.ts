import { useQueries, useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import type { Desk, PieceRow } from '../../contract/desk'
import type { Receipt } from '../../contract/sends'
import { toneSound, type TapeInfo, type Use, type Words } from '../../contract/tapes'
import type { FactsOf } from '../../core/sound/plan'
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

export const wordsQuery = (id: string) => ({ queryKey: ['words', id], queryFn: () => get<Words>(`/tapes/${id}/words`), staleTime: Infinity, structuralSharing: false as const })

/** What the renderer must know of tapes; null until all of it is here. */
export function useFacts(ids: readonly string[]): { factsOf: FactsOf; wordsOf: (tape: string) => Words; tapes: TapeInfo[] } | null {
  const tapes = useTapes().data
  const words = useQueries({ queries: ids.map(wordsQuery) })
  const complete = tapes && words.every((query) => query.data)
  const key = words.map((query) => query.dataUpdatedAt).join()
  return useMemo(() => {
    if (!complete) return null
    const known = new Map(tapes.map((tape) => [tape.id, tape]))
    const texts = new Map(ids.map((id, i) => [id, words[i].data!]))
    return {
      tapes,
      wordsOf: (tape) => texts.get(tape) ?? [],
      factsOf: (id) => {
        const tape = known.get(id)
        if (!tape) return { id, frames: 0, sides: [], tone: { sound: id, quiet: [] } }
        return { id, frames: tape.frames, sides: tape.sides, tone: { sound: toneSound(tape), quiet: tape.tone.quiet } }
      },
    }
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [tapes, complete, ids.join(), key])
}
