import { useMemo, useState } from 'react'
import type { HeardSide } from '../../core/render/plan'
import type { Side } from '../../core/tape/tape'
import type { Tried } from './MendPanel'

/** The sides of a tape as they are heard: with what is being tried on one of them. */
export function useTrying(sides: Side[]): { heard: HeardSide[]; onTry: (tried: Tried | null) => void } {
  const [tried, onTry] = useState<Tried | null>(null)
  const heard = useMemo(
    () => (tried ? sides.map((side, i) => (i === tried.side ? { ...side, rendition: undefined, trying: tried.steps } : side)) : sides),
    [sides, tried],
  )
  return { heard, onTry }
}
