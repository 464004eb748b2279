import { joinOf } from '../../core/cuts/inPiece'
import { actualityType, type Actuality, type ActualityStep } from '../../core/edits/actuality'
import { setEdges } from '../../core/edits/acts'
import { edits } from '../../core/edits/editList'
import type { WordsOf } from '../../core/edits/pieceWords'
import type { FactsOf } from '../../core/render/plan'
import { applyAll } from '../../core/steps/document'
import type { Frames } from '../../core/time'
import { placeCut } from './placing'

/**
 * Steps, followed by those that move the joins they make, at the places given, to where these are not audible, with a gap
 * that the speaker would leave.
 */
export async function withPlacedJoins(
  piece: Actuality,
  steps: readonly ActualityStep[],
  places: readonly Frames[],
  factsOf: FactsOf,
  wordsOf: WordsOf,
): Promise<ActualityStep[]> {
  const all = [...steps]
  let document = applyAll(actualityType, piece, steps)
  // the last first: what changes there moves none before it
  for (const place of [...places].sort((a, b) => b - a)) {
    const cut = edits(document.spans).find(({ at }) => at === place)
    const order = cut && joinOf(cut)
    const placed = order && (await placeCut(order, factsOf, wordsOf))
    if (!placed) continue
    const more = setEdges(
      document,
      cut!,
      placed,
      {
        ...placed.join,
        origin: 'hand',
        heard: false,
        asked: { left: order.left.asked, right: order.right.asked, why: placed.reasons.join(', ') },
      },
      placed.lacks,
    )
    document = applyAll(actualityType, document, more)
    all.push(...more)
  }
  return all
}
