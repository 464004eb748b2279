import { useMemo } from 'react'
import type { Actuality } from '../../../core/edits/actuality'
import { edits } from '../../../core/edits/editList'
import type { WordsOf } from '../../../core/edits/pieceWords'
import { withSides, type FactsOf } from '../../../core/render/plan'
import { audible } from '../../joins/Judgement'
import { useJudged } from '../../joins/useJudged'

/** How many joins of a piece are expected to be audible, as the Bench says of each of them. */
export function AudibleJoins({ piece, factsOf, wordsOf }: { piece: Actuality; factsOf: FactsOf; wordsOf: WordsOf }) {
  const { spans, sides } = piece
  const joins = useMemo(() => edits(spans), [spans])
  const ownFacts = useMemo(() => withSides(factsOf, { sides }), [factsOf, sides])
  const judged = useJudged(joins, undefined, ownFacts, wordsOf)
  const expected = joins.map((join) => audible(judged(join)))
  return (['likely', 'possibly'] as const).map((how) => {
    const count = expected.filter((one) => one === how).length
    return (
      count > 0 && (
        <span key={how} className="block text-cut-ink" data-testid="audible">
          {count === 1 ? '1 join' : `${count} joins`} {how} audible
        </span>
      )
    )
  })
}
