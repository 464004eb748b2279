import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useEffectEvent, useRef, useState } from 'react'
import type { FromKeeper, ToKeep } from './boardKeeper'

/** What is made a moment later is kept with the rest. */
const RESTS_MS = 1000

/** Its own addresses alone: nobody else's pages go through it. */
const keeper = () =>
  import.meta.env.PROD && navigator.serviceWorker ? navigator.serviceWorker.register('/boardKeeper.js', { scope: '/live' }) : null

/**
 * Keeps what a board is made of in the browser, so that it opens without a server. `paths`: the addresses, as soon as all
 * of them are known. Returns whether they are kept as they are now.
 */
export function useKeptBoard(board: string, paths: readonly string[] | null, version: object): boolean {
  const [kept, setKept] = useState<object | null>(null)
  const queries = useQueryClient()
  const key = paths?.join() ?? null
  /** What was asked for last, and of which version. */
  const asked = useRef({ ask: 0, version })
  // what came late may be otherwise than what was kept
  useFromKeeper((data) => 'late' in data && void queries.invalidateQueries())
  useFromKeeper((data) => 'kept' in data && data.kept === asked.current.ask && setKept(asked.current.version))
  useEffect(() => {
    if (key === null) return
    const timer = setTimeout(async () => {
      try {
        const registration = await keeper()
        if (!registration) return
        asked.current = { ask: asked.current.ask + 1, version }
        const message: ToKeep = { ask: asked.current.ask, board, paths: key.split(',') }
        ;(await activeOf(registration)).postMessage(message)
      } catch {
        // a browser that forbids it: the board plays on as long as it is open
      }
    }, RESTS_MS)
    return () => clearTimeout(timer)
  }, [board, key, version])
  return kept === version && key !== null
}

function useFromKeeper(heard: (data: FromKeeper) => void): void {
  const hear = useEffectEvent(({ data }: MessageEvent<FromKeeper>) => heard(data))
  useEffect(() => {
    navigator.serviceWorker?.addEventListener('message', hear)
    return () => navigator.serviceWorker?.removeEventListener('message', hear)
  }, [])
}

/** The service worker once it is there; the newest, where one takes another's place. */
async function activeOf({ installing, waiting, active }: ServiceWorkerRegistration): Promise<ServiceWorker> {
  const newest = installing ?? waiting ?? active!
  if (newest.state === 'activated') return newest
  await new Promise<void>((done, fail) =>
    newest.addEventListener('statechange', () => {
      if (newest.state === 'activated') done()
      if (newest.state === 'redundant') fail(new Error('it did not begin'))
    }),
  )
  return newest
}
