import { useState } from 'react'
import type { Proposal } from '../../core/tape/suggestion'
import { keyOf, type Place } from './useKinds'

/** What a person would rather do at the place that is looked at; it holds for that place, until another one is looked at. */
export function useChange(proposed: Place | null) {
  const [changed, setChanged] = useState<{ place: string; proposes: Proposal } | null>(null)
  const own = proposed && !proposed.decided && changed?.place === keyOf(proposed) ? changed : null
  return {
    /** The place with what is done there now. */
    place: proposed && own ? { ...proposed, proposes: own.proposes } : proposed,
    changed: own !== null,
    /** Null for what was proposed. */
    change: (proposes: Proposal | null) => setChanged(proposed && proposes && { place: keyOf(proposed), proposes }),
  }
}
