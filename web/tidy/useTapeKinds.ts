import { useMemo } from 'react'
import { withSides } from '../../core/render/plan'
import { sidesInForce, suggestionsOn } from '../../core/tape/inForce'
import { offRecord, strikesOf } from '../../core/tape/tape'
import { takeBackOn } from '../../core/tidy/decide'
import type { FinderName } from '../../core/tidy/finder'
import type { TapeInfo } from '../../contract/tapes'
import { useFigures, type useFacts } from '../api/queries'
import type { OpenDocument } from '../documents/useDocument'
import { applyKinds } from './applyKinds'
import { lacksOf } from './lacks'
import { useHeard } from './useHeard'
import { useKinds } from './useKinds'
import { useLooked } from './useLooked'
import type { Rules } from './useRules'
import { applying } from './useTapeTidy'

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
  const { heard, listening } = useHeard([{ ...tape, sides }], true)
  const speech = useFigures(tape)?.speech ?? NO_SPEECH
  const looked = useLooked({ tape, body, words: wordsOf(id), speech, heard: heard.get(id) ?? null, rules })
  const sought = useMemo(() => [{ looked, gone: strikesOf(body), off: offRecord(body), holds: false }], [looked, body])
  const decided = useMemo(() => suggestionsOn(body).filter(({ decision }) => decision), [body])
  const { kinds, settings } = useKinds(sought, decided, NO_TURNS, rules.dismissals)
  const factsOf = useMemo(() => withSides(facts.factsOf, { sides: { [id]: sides } }), [facts, id, sides])
  const apply = (names: readonly FinderName[]) =>
    applyKinds(names, {
      kinds,
      settings,
      factsOf,
      wordsOf,
      apply: (suggestions, label) => live.actEach(suggestions.map(applying()), { label }),
      takeBack: (suggestions, label) =>
        void live.actEach(
          suggestions.map((one) => (now) => (now.records[one.id] ? takeBackOn(now, one) : [])),
          { label },
        ),
    })
  return { kinds, listening, lacks: lacksOf(looked), apply }
}
