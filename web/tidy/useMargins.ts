import { useMemo } from 'react'
import type { WordsOf } from '../../core/edits/pieceWords'
import type { Proposal, Suggestion } from '../../core/tape/suggestion'
import type { FinderName } from '../../core/tidy/finder'
import { NO_MARGINS, reachOf, withEdges, withMargins, type Margins } from '../../core/tidy/margins'
import { leaving } from '../../core/tidy/changes'
import { isPause } from '../../core/tidy/outlook'
import { RATE, type Frames } from '../../core/time'
import { useKept } from '../ui/useKept'
import type { Place } from './useKinds'

/** What a person wants otherwise for all places of a kind: wider or narrower edges, and how long pauses are left. */
export function useMargins(owner: string, name: FinderName, places: readonly Place[], wordsOf: WordsOf) {
  const [all, setAll] = useKept<Partial<Record<FinderName, Margins>>>(`${owner}/tidyMargins`, {})
  const margins = all[name] ?? NO_MARGINS
  const { edge, left } = margins
  const found = useMemo(() => {
    if (!edge && left === null) return { places, short: 0 }
    let short = 0
    const changed = places.map((place): Place => {
      if (place.decided) return place
      const proposes = withMargins(place, { edge, left }, wordsOf(place.tape))
      if (!proposes) short++
      return proposes ? { ...place, proposes, ...(isPause(place) ? {} : { bare: place.proposes, edge }) } : place
    })
    return { places: changed, short }
  }, [places, edge, left, wordsOf])
  /** What of it a suggestion keeps: milliseconds, and seconds. */
  const settings = { ...(edge ? { edge: Math.round((1000 * edge) / RATE) } : {}), ...(left === null ? {} : { left: left / RATE }) }
  return {
    ...margins,
    ...found,
    set: (next: Partial<Margins>) => setAll({ ...all, [name]: { ...margins, ...next } }),
    settings,
    /** What was applied, with the margins that are set now; null where it has them, or is too short for them. */
    forApplied: (applied: Suggestion): Suggestion | null => {
      const { proposes } = applied
      const { edge: had = 0, left: wasLeft, ...others } = applied.settings
      const before = Math.round((Number(had) * RATE) / 1000)
      if (!('goes' in proposes) || (before === edge && (left === null || wasLeft === left / RATE))) return null
      const next = (made: Proposal | null) => made && { ...applied, proposes: made, settings: { ...others, ...settings } }
      if (isPause(applied) && left !== null)
        return next(withMargins({ ...applied, proposes: leaving(applied, left) }, { edge, left: null }, []))
      const goes = withEdges(proposes.goes, edge - before, reachOf(applied, wordsOf(applied.tape)))
      return next(goes && { ...proposes, goes })
    },
  }
}

/** Edges, as a person says them. */
export const marginInWords = (edge: Frames): string => {
  const ms = Math.round((1000 * Math.abs(edge)) / RATE)
  if (!ms) return 'Edges as found'
  return `Each edge: ${ms} ms more ${edge > 0 ? 'stays' : 'goes'}`
}
