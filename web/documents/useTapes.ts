import { useEffect, useMemo, useState } from 'react'
import { liveDocument } from './useDocument'
import type { LiveDocument } from './liveDocument'

/** The documents of several tapes, as far as they are here, drawn anew with every change of one. */
export function useTapes(ids: readonly string[]): ReadonlyMap<string, LiveDocument<'tape'>> {
  const key = ids.join()
  const [open, setOpen] = useState<ReadonlyMap<string, LiveDocument<'tape'>>>(new Map())
  useEffect(() => {
    let current = true
    const stops: (() => void)[] = []
    for (const id of key ? key.split(',') : [])
      liveDocument(id, 'tape').then(
        (live) => {
          if (!current) return
          stops.push(live.subscribe(() => setOpen((before) => new Map(before))))
          setOpen((before) => new Map(before).set(id, live))
        },
        () => undefined, // a tape that cannot be had has nothing to show
      )
    return () => {
      current = false
      stops.forEach((stop) => stop())
    }
  }, [key])
  return useMemo(() => new Map([...open].filter(([id]) => key.split(',').includes(id))), [open, key])
}
