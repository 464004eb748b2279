import { useCallback, useMemo } from 'react'
import { withSides } from '../../core/render/plan'
import { suggestionsOf, takeBackIn } from '../../core/tidy/decide'
import type { FinderName } from '../../core/tidy/finder'
import type { useFacts } from '../api/queries'
import type { OpenDocument } from '../documents/useDocument'
import { applyKinds } from './applyKinds'
import { useHeard } from './useHeard'
import { useKinds } from './useKinds'
import { applyingIn, usePieceSought } from './usePieceSought'
import type { Rules } from './useRules'

const NO_TURNS = {}

/** What finders find in one of several pieces, by their usual figures, and what applies all of some kinds there as one act. */
export function usePieceKinds(
  { live, body }: OpenDocument<'actuality'>,
  facts: NonNullable<ReturnType<typeof useFacts>>,
  { rules }: Rules,
) {
  const { tapes, wordsOf } = facts
  const { spans, sides } = body
  const factsOf = useMemo(() => withSides(facts.factsOf, { sides }), [facts, sides])
  const { heard, listening } = useHeard(tapes, true)
  const offOf = useCallback((tape: string) => tapes.find(({ id }) => id === tape)?.off ?? [], [tapes])
  const sought = usePieceSought({ spans, tapes, heard, factsOf, wordsOf, offOf, rules })
  const decided = useMemo(() => suggestionsOf(body).filter(({ decision }) => decision), [body])
  const { kinds, settings } = useKinds(sought, decided, NO_TURNS, rules.dismissals)
  const apply = (names: readonly FinderName[]) =>
    applyKinds(names, {
      kinds,
      settings,
      factsOf,
      wordsOf,
      apply: (suggestions, label) => live.actEach(suggestions.map(applyingIn()), { label }),
      takeBack: (suggestions, label) =>
        void live.actEach(
          suggestions.map((one) => (now) => (suggestionsOf(now).some(({ id }) => id === one.id) ? takeBackIn(now, one) : [])),
          { label },
        ),
    })
  return { kinds, listening, lacks: null, apply }
}
