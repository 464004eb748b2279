import { useRef } from 'react'

/** The list of the last rendering, as long as all in it are the same: what is worked out of it is not worked out again. */
export function useSame<T>(list: readonly T[]): readonly T[] {
  const last = useRef(list)
  if (list.length !== last.current.length || list.some((one, i) => one !== last.current[i])) last.current = list
  return last.current
}
