import { useQueries } from '@tanstack/react-query'
import { useEffect, useMemo, useRef, useState } from 'react'
import { toast } from 'sonner'
import type { Listening } from '../../contract/listenings'
import type { TapeInfo } from '../../contract/tapes'
import type { HeardSide } from '../../core/tidy/listen/side'
import { get, post, remove } from '../api/client'

/**
 * What was heard on the sides of tapes, for the finders that go by sound. The server listens once somebody asks, which this does
 * by itself where `wanted`; it goes on while one is elsewhere.
 */
export function useHeard(tapes: readonly Pick<TapeInfo, 'id' | 'sides'>[], wanted: boolean) {
  // of other sides something else is heard
  const keys = tapes.map(({ id, sides }) => [id, sides.map(({ channels }) => channels.join('+')).join()])
  const listenings = useQueries({
    queries: keys.map((key) => ({
      queryKey: ['listening', ...key],
      queryFn: () => get<Listening | null>(`/listenings/${key[0]}`),
      enabled: wanted,
    })),
  }).map(({ data }) => data)
  const all = useQueries({
    queries: keys.map((key, i) => ({
      queryKey: ['heard', ...key],
      queryFn: () => get<HeardSide[]>(`/listenings/${key[0]}/heard`),
      enabled: wanted && listenings[i]?.state === 'done',
      staleTime: Infinity,
    })),
  }).map(({ data }) => data ?? null)
  const asked = useRef(new Set<string>())
  const [cancelled, setCancelled] = useState(false)
  const ask = (tape: string) => {
    void post('/listenings', { tape }).catch((error: Error) => toast.error(error.message))
  }
  useEffect(() => {
    if (!wanted) return
    keys.forEach(([tape, sides], i) => {
      const key = `${tape} ${sides}`
      if (listenings[i] !== null || asked.current.has(key)) return
      asked.current.add(key)
      ask(tape)
    })
  })
  const heard = useMemo(
    () => new Map(tapes.map(({ id }, i) => [id, all[i]])),
    // oxlint-disable-next-line react-hooks/exhaustive-deps
    [keys.join(' '), ...all],
  )
  const busy = listenings.filter((one) => one && one.state !== 'done') as Listening[]
  return {
    heard,
    listening: {
      /** Of the tape that is not done yet; of any where all are. */
      now: busy[0] ?? listenings.find(Boolean) ?? null,
      cancelled,
      ask: () => {
        setCancelled(false)
        tapes.forEach(({ id }, i) => listenings[i]?.state !== 'done' && ask(id))
      },
      cancel: () => {
        setCancelled(true)
        for (const { tape } of busy) void remove(`/listenings/${tape}`).catch((error: Error) => toast.error(error.message))
      },
    },
  }
}
