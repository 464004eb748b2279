import { useQueries } from '@tanstack/react-query'
import { useEffect, useMemo, useRef } from 'react'
import { toast } from 'sonner'
import type { Listening } from '../../contract/listenings'
import type { HeardSide } from '../../core/tidy/listen/side'
import { get, post, remove } from '../api/client'

/**
 * What was heard on the sides of tapes, for the finders that go by sound. The server listens once somebody asks, which this does
 * by itself where `wanted`; it goes on while one is elsewhere.
 */
export function useHeard(tapes: readonly string[], wanted: boolean) {
  const listenings = useQueries({
    queries: tapes.map((tape) => ({
      queryKey: ['listening', tape],
      queryFn: () => get<Listening | null>(`/listenings/${tape}`),
      enabled: wanted,
    })),
  }).map(({ data }) => data)
  const all = useQueries({
    queries: tapes.map((tape, i) => ({
      queryKey: ['heard', tape],
      queryFn: () => get<HeardSide[]>(`/listenings/${tape}/heard`),
      enabled: wanted && listenings[i]?.state === 'done',
      staleTime: Infinity,
    })),
  }).map(({ data }) => data ?? null)
  const asked = useRef(new Set<string>())
  const ask = (tape: string) => {
    asked.current.add(tape)
    void post('/listenings', { tape }).catch((error: Error) => toast.error(error.message))
  }
  useEffect(() => {
    if (wanted) tapes.forEach((tape, i) => listenings[i] === null && !asked.current.has(tape) && ask(tape))
  })
  const heard = useMemo(
    () => new Map(tapes.map((tape, i) => [tape, all[i]])),
    // oxlint-disable-next-line react-hooks/exhaustive-deps
    [tapes.join(), ...all],
  )
  const busy = listenings.filter((one) => one && one.state !== 'done') as Listening[]
  return {
    heard,
    listening: {
      /** Of the tape that is not done yet; of any where all are. */
      now: busy[0] ?? listenings.find(Boolean) ?? null,
      ask: () => busy.forEach(({ tape }) => ask(tape)),
      cancel: () => busy.forEach(({ tape }) => void remove(`/listenings/${tape}`).catch((error: Error) => toast.error(error.message))),
    },
  }
}
