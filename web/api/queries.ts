import { useQueries, useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import type { Desk, PieceRow } from '../../contract/desk'
import type { StoredDocument } from '../../contract/documents'
import type { Receipt } from '../../contract/sends'
import { toFacts, type TapeInfo, type Use } from '../../contract/tapes'
import type { FactsOf } from '../../core/render/plan'
import type { Word } from '../../core/tape/words'
import { wordsOf, type Transcript } from '../../core/transcript/transcript'
import { get, Refused } from './client'
import { useSame } from './useSame'
import type { TapeFigures } from '../../core/hearing/ear'

export const useDesk = () => useQuery({ queryKey: ['desk'], queryFn: () => get<Desk>('/desk') })
const tapesQuery = { queryKey: ['tapes'], queryFn: () => get<TapeInfo[]>('/tapes') }
export const useTapes = () => useQuery(tapesQuery)
export const tapeQuery = (id: string) => ({ queryKey: ['tape', id], queryFn: () => get<TapeInfo>(`/tapes/${id}`) })
export const useTape = (id: string) => useQuery(tapeQuery(id))
/** The files of the recording that a tape is one file of. */
export const useRun = ({ id, state }: Pick<TapeInfo, 'id' | 'state'>) =>
  useQuery({
    queryKey: ['tapes', 'run', id],
    queryFn: () => get<{ id: string; name: string }[]>(`/tapes/${id}/run`),
    enabled: state === 'ready',
  })
export const useUses = (id: string) => useQuery({ queryKey: ['uses', id], queryFn: () => get<Use[]>(`/tapes/${id}/uses`) })
export const useAllPieces = () => useQuery({ queryKey: ['pieces', 'all'], queryFn: () => get<PieceRow[]>('/pieces') })
/** Pieces that belong to a story, or that its page uses; all of them where there is no story. */
export const useStoryPieces = (story: string | null) => useQuery(storyPiecesQuery(story))
export const storyPiecesQuery = (story: string | null) => ({
  queryKey: ['pieces', 'story', story],
  queryFn: () => get<PieceRow[]>(story ? `/pieces?story=${story}` : '/pieces'),
})
/** Pieces that use a tape. */
export const useTapePieces = (tape: string) =>
  useQuery({ queryKey: ['pieces', 'tape', tape], queryFn: () => get<PieceRow[]>(`/pieces?tape=${tape}`) })
export const useReceipts = (of: string) => useQuery({ queryKey: ['sends', of], queryFn: () => get<Receipt[]>(`/sends?of=${of}`) })

export const wordsQuery = (id: string) => ({
  queryKey: ['words', id],
  queryFn: async () => (await get<StoredDocument & { body: Transcript }>(`/tapes/${id}/words`)).body,
  staleTime: Infinity,
  structuralSharing: false as const,
})

/**
 * What the renderer must know of tapes, and their words; null until all of it is here. `known`: words that are at hand
 * already. It stays the same object while nothing about these very tapes changes, whatever else arrives.
 */
export function useFacts(
  ids: readonly string[],
  known?: { readonly tape: string; readonly words: readonly Word[] } | null,
): { factsOf: FactsOf; wordsOf: (tape: string) => readonly Word[]; tapes: TapeInfo[] } | null {
  const tapes = useSame(
    useQueries({ queries: ids.map((id) => tapeQuery(id)) }).map(({ data, error }) => data ?? (error instanceof Refused ? null : undefined)),
  )
  const words = useQueries({ queries: ids.map((id) => ({ ...wordsQuery(id), enabled: known === undefined })) })
  const complete =
    tapes.every((tape) => tape !== undefined) &&
    known !== null &&
    (known || words.every((query) => query.data || query.error instanceof Refused))
  const key = words.map((query) => query.dataUpdatedAt).join()
  return useMemo(() => {
    if (!complete) return null
    const there = tapes.filter((tape) => tape !== null && tape !== undefined)
    const facts = new Map(there.map((tape) => [tape.id, toFacts(tape)]))
    const texts = known
      ? new Map<string, readonly Word[]>([[known.tape, known.words]])
      : new Map(ids.map((id, i) => [id, words[i].data ? wordsOf(words[i].data) : []]))
    return {
      tapes: there,
      wordsOf: (tape) => texts.get(tape) ?? [],
      factsOf: (id) => facts.get(id) ?? { id, frames: 0, sides: [], tone: { sound: id, quiet: [] } },
    }
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [tapes, complete, ids.join(), key, known?.words])
}

/** What was found by listening to a tape; undefined until it is known. */
export const useFigures = (tape: TapeInfo) =>
  useQuery({
    queryKey: ['figures', tape.id, tape.sides.map(({ channels }) => channels.join('+')).join()],
    enabled: tape.state === 'ready',
    staleTime: Infinity,
    queryFn: () => get<TapeFigures | null>(`/tapes/${tape.id}/figures`),
  }).data
