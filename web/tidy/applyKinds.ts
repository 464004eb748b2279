import type { WordsOf } from '../../core/edits/pieceWords'
import type { FactsOf } from '../../core/render/plan'
import type { Suggestion } from '../../core/tape/suggestion'
import type { FinderName, Setting } from '../../core/tidy/finder'
import { AUDIBLE } from '../../core/tidy/outlook'
import { placed, suggestionFor } from './suggestionFor'
import type { Kind, Place } from './useKinds'
import { look } from './usePredictions'

/** What came of applying kinds to a tape or a piece. */
export interface Applied {
  done: number
  /** What was left open, by why. */
  left: ReadonlyMap<string, number>
  /** Takes all of it back. */
  undo: () => void
}

/** A tape or a piece, to be tidied by its usual figures. */
interface On {
  kinds: readonly Kind[]
  settings: ReadonlyMap<FinderName, Setting | null>
  factsOf: FactsOf
  wordsOf: WordsOf
  /** Both as one act; returns how many were applied. */
  apply: (suggestions: readonly Suggestion[], label: string) => number
  takeBack: (suggestions: readonly Suggestion[], label: string) => void
}

/** Applies all of some kinds as one act; what would be audible, and what takes care, is left open. */
export async function applyKinds(names: readonly FinderName[], on: On): Promise<Applied> {
  const { kinds, settings, factsOf, wordsOf } = on
  const left = new Map<string, number>()
  const take = async (name: FinderName, one: Place): Promise<Suggestion[]> => {
    const outlook = 'goes' in one.proposes ? await look(one, factsOf, wordsOf).catch(() => null) : null
    const why = one.care ?? ((outlook?.heard ?? 0) >= AUDIBLE ? 'would be audible' : null)
    if (why) left.set(why, (left.get(why) ?? 0) + 1)
    const setting = settings.get(name)
    return why ? [] : [suggestionFor(name, one, placed(one, outlook), setting ? { setting: setting.usual } : {})]
  }
  const open = kinds.filter(({ name }) => names.includes(name)).flatMap(({ name, places }) => places.map((one) => ({ name, one })))
  const all = await Promise.all(open.filter(({ one }) => !one.decided).map(({ name, one }) => take(name, one)))
  const suggestions = distinct(all.flat())
  const label = `tidy: ${suggestions.length} ${suggestions.length === 1 ? 'place' : 'places'}`
  const done = suggestions.length ? on.apply(suggestions, label) : 0
  return { done, left, undo: () => on.takeBack(suggestions, `take back: ${label}`) }
}

/** What two kinds found at one place goes once. */
function distinct(suggestions: readonly Suggestion[]): Suggestion[] {
  const known = new Set<string>()
  return suggestions.filter(({ tape, proposes }) => {
    const key = 'goes' in proposes ? `${tape} ${proposes.goes.from} ${proposes.goes.to}` : ''
    if (key && known.has(key)) return false
    known.add(key)
    return true
  })
}
