import { useEffect, useRef } from 'react'
import { orSay } from '../api/orSay'

/**
 * Goes from what is shown to what comes before or after it. Who presses again before that is there goes on from the one that is on its
 * way: so this stands in a view that stays while one of them opens. `go` goes there from an id, and gives the id of where it went.
 */
export function useBeside(id: string, go: (from: string, by: 1 | -1) => Promise<string>): (by: 1 | -1) => void {
  const last = useRef(Promise.resolve(id))
  const waiting = useRef(0)
  useEffect(() => {
    if (!waiting.current) last.current = Promise.resolve(id)
  }, [id])
  return (by) => {
    waiting.current++
    const there = last.current.then((from) => go(from, by)).finally(() => waiting.current--)
    last.current = there.catch(() => id)
    orSay(there)
  }
}
