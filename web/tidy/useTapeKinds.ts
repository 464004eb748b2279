import { useMemo } from 'react'
import { withSides } from '../../core/render/plan'
import { sidesInForce, suggestionsOn } from '../../core/tape/inForce'
import type { Suggestion } from '../../core/tape/suggestion'
import { offRecord, strikesOf } from '../../core/tape/tape'
import { takeBackOn } from '../../core/tidy/decide'
import type { FinderName } from '../../core/tidy/finder'
import { AUDIBLE } from '../../core/tidy/outlook'
import type { TapeInfo } from '../../contract/tapes'
import { useFigures, type useFacts } from '../api/queries'
import type { OpenDocument } from '../documents/useDocument'
import { lacksOf } from './lacks'
import { placed, suggestionFor } from './suggestionFor'
import { useHeard } from './useHeard'
import { useKinds, type Place } from './useKinds'
import { useLooked } from './useLooked'
import { look } from './usePredictions'
import type { Rules } from './useRules'
import { applying } from './useTapeTidy'

/** What came of applying kinds to a tape. */
export interface Applied {
  done: number
  /** What was left open, by why. */
  left: ReadonlyMap<string, number>
  /** Takes all of it back. */
  undo: () => void
}

const NO_SPEECH = [] as const
const NO_TURNS = {}

/** What finders find on one of several tapes, by their usual figures, and what applies all of some kinds there as one act. */
export function useTapeKinds(
  tape: TapeInfo,
  { live, body }: OpenDocument<'tape'>,
  facts: NonNullable<ReturnType<typeof useFacts>>,
  { rules }: Rules,
) {
  const { id } = tape
  const { wordsOf } = facts
  const sides = useMemo(() => sidesInForce(body), [body])
  const { heard, listening } = useHeard([{ id, sides }], true)
  const speech = useFigures(tape)?.speech ?? NO_SPEECH
  const looked = useLooked({ tape, body, words: wordsOf(id), speech, heard: heard.get(id) ?? null, rules })
  const sought = useMemo(() => [{ looked, gone: strikesOf(body), off: offRecord(body), holds: false }], [looked, body])
  const decided = useMemo(() => suggestionsOn(body).filter(({ decision }) => decision), [body])
  const { kinds, settings } = useKinds(sought, decided, NO_TURNS, rules.dismissals)
  const factsOf = useMemo(() => withSides(facts.factsOf, { sides: { [id]: sides } }), [facts, id, sides])

  /** Applies all of these kinds; what would be audible, and what takes care, is left open. */
  const apply = async (names: readonly FinderName[]): Promise<Applied> => {
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
    const done = suggestions.length ? live.actEach(suggestions.map(applying()), { label }) : 0
    const undo = () =>
      void live.actEach(
        suggestions.map((one) => (now) => (now.records[one.id] ? takeBackOn(now, one) : [])),
        { label: `take back: ${label}` },
      )
    return { done, left, undo }
  }
  return { kinds, listening, lacks: lacksOf(looked), apply }
}

/** What two kinds found at one place goes once. */
function distinct(suggestions: readonly Suggestion[]): Suggestion[] {
  const known = new Set<string>()
  return suggestions.filter(({ proposes }) => {
    const key = 'goes' in proposes ? `${proposes.goes.from} ${proposes.goes.to}` : ''
    if (key && known.has(key)) return false
    known.add(key)
    return true
  })
}
