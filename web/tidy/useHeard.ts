import { useQueries } from '@tanstack/react-query'
import { useEffect, useMemo, useRef, useState } from 'react'
import { toast } from 'sonner'
import { LEAST_HEARD, MORE_HEARD, type Listening } from '../../contract/listenings'
import type { TapeInfo } from '../../contract/tapes'
import type { HeardSide } from '../../core/tidy/listen/side'
import { get, post, remove } from '../api/client'

type Arriving = Pick<TapeInfo, 'id' | 'sides' | 'state' | 'frames'>

/** Whether a tape is to be listened to: for the first time, or because more of it has come; all of it in the end. */
function isDue({ state, frames }: Arriving, listening: Listening | null): boolean {
  if (state === 'failed' || (state === 'arriving' && frames < LEAST_HEARD)) return false
  if (!listening) return true
  return listening.state === 'done' && frames >= (state === 'ready' ? listening.frames + 1 : MORE_HEARD * listening.frames)
}

/**
 * What was heard on the sides of tapes, for the finders that go by sound. The server listens once somebody asks, which this does
 * by itself where `wanted`, and again as more of a tape arrives; it goes on while one is elsewhere.
 */
export function useHeard(tapes: readonly Arriving[], wanted: boolean) {
  const known = useRef(new Map<string, readonly HeardSide[]>())
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
      queryKey: ['heard', ...key, listenings[i]?.frames],
      queryFn: () => get<HeardSide[]>(`/listenings/${key[0]}/heard`),
      enabled: wanted && listenings[i]?.state === 'done',
      staleTime: Infinity,
    })),
  }).map(({ data }, i) => {
    const key = keys[i].join(' ')
    // what is known of a tape stays until more of it has been heard
    if (data) known.current.set(key, data)
    return known.current.get(key) ?? null
  })
  const asked = useRef(new Set<string>())
  const [cancelled, setCancelled] = useState(false)
  const ask = (tape: string) => {
    void post('/listenings', { tape }).catch((error: Error) => toast.error(error.message))
  }
  useEffect(() => {
    if (!wanted || cancelled) return
    keys.forEach(([tape, sides], i) => {
      const listening = listenings[i]
      if (listening === undefined || !isDue(tapes[i], listening)) return
      const key = `${tape} ${sides} ${listening?.frames ?? 0}`
      if (asked.current.has(key)) return
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
