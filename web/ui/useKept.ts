import { useCallback, useState } from 'react'

/** What views have again when one comes back to them, for as long as the application is open. */
const kept = new Map<string, unknown>()

/** State that a view keeps by a name while one is elsewhere: what is chosen, which panel is open. */
export function useKept<T>(name: string, begin: T | (() => T)): [T, (value: T) => void] {
  const [value, show] = useState<T>(() => (kept.has(name) ? (kept.get(name) as T) : begin instanceof Function ? begin() : begin))
  const keep = useCallback(
    (next: T) => {
      kept.set(name, next)
      show(next)
    },
    [name],
  )
  return [value, keep]
}

/** The same for what changes too often to be shown anew each time. */
export const keptNow = {
  get: <T>(name: string, begin: T): T => (kept.has(name) ? (kept.get(name) as T) : begin),
  set: (name: string, value: unknown): void => void kept.set(name, value),
}
