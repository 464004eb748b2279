import { useMemo, useState } from 'react'
import type { HeardSide, Trying } from '../../core/render/plan'
import type { Side } from '../../core/tape/tape'

/** What is tried on one of a tape's sides, by its index. */
export interface Tried extends Trying {
  side: number
}

/** A tape's sides with what is tried on one of them, in place of what was applied. */
export const withTried = (sides: readonly Side[], tried: Tried | null): HeardSide[] =>
  sides.map((side, i) =>
    tried && i === tried.side
      ? { ...side, rendition: undefined, trying: tried.away ? { steps: tried.steps, away: true } : { steps: tried.steps } }
      : side,
  )

/** The sides of a tape as they are heard: with what is being tried on one of them. */
export function useTrying(sides: Side[]): { heard: HeardSide[]; onTry: (tried: Tried | null) => void } {
  const [tried, onTry] = useState<Tried | null>(null)
  const heard = useMemo(() => (tried ? withTried(sides, tried) : sides), [sides, tried])
  return { heard, onTry }
}
