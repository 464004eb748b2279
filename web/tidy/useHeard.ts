import { useQuery } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { toast } from 'sonner'
import type { Listening } from '../../contract/listenings'
import type { HeardSide } from '../../core/tidy/listen/side'
import { get, post, remove } from '../api/client'

/**
 * What was heard on the sides of a tape, for the finders that go by sound. The server listens once somebody asks, which this does
 * by itself where `wanted`; it goes on while one is elsewhere.
 */
export function useHeard(tape: string, wanted: boolean) {
  const { data: listening } = useQuery({
    queryKey: ['listening', tape],
    queryFn: () => get<Listening | null>(`/listenings/${tape}`),
    enabled: wanted,
  })
  const { data: heard } = useQuery({
    queryKey: ['heard', tape],
    queryFn: () => get<HeardSide[]>(`/listenings/${tape}/heard`),
    enabled: wanted && listening?.state === 'done',
    staleTime: Infinity,
  })
  const asked = useRef('')
  const ask = () => {
    asked.current = tape
    void post('/listenings', { tape }).catch((error: Error) => toast.error(error.message))
  }
  useEffect(() => {
    if (wanted && listening === null && asked.current !== tape) ask()
  })
  return {
    heard: heard ?? null,
    listening: listening ?? null,
    ask,
    cancel: () => void remove(`/listenings/${tape}`).catch((error: Error) => toast.error(error.message)),
  }
}
