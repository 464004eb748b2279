import { useEffect, useState } from 'react'
import type { ToKeep } from './boardKeeper'

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
  const key = paths?.join() ?? null
  useEffect(() => {
    if (key === null) return
    const heard = ({ data }: MessageEvent<{ kept?: string }>) => data.kept === board && setKept(version)
    navigator.serviceWorker?.addEventListener('message', heard)
    const timer = setTimeout(async () => {
      try {
        const registration = await keeper()
        const message: ToKeep = { board, paths: key.split(',') }
        if (registration) (await activeOf(registration)).postMessage(message)
      } catch {
        // a browser that forbids it: the board plays on as long as it is open
      }
    }, RESTS_MS)
    return () => {
      clearTimeout(timer)
      navigator.serviceWorker?.removeEventListener('message', heard)
    }
  }, [board, key, version])
  return kept === version && key !== null
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
