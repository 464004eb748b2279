import { useRef, useState } from 'react'

/** The same functions for as long as a view is shown, which do what the newest of them do: what is handed them need not be drawn anew. */
export function useLasting<T extends { [name in keyof T]: (...given: never[]) => unknown }>(now: T): T {
  const latest = useRef(now)
  latest.current = now
  const [lasting] = useState(() => {
    const names = Object.keys(now) as (keyof T)[]
    return Object.fromEntries(names.map((name) => [name, (...given: never[]) => latest.current[name](...given)])) as T
  })
  return lasting
}
