import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import type { Actuality } from '../../../core/edits/actuality'
import type { EditList } from '../../../core/edits/editList'
import { asIn, type Version } from '../../../core/edits/versions'
import { piecePlan } from '../../../core/page/plan'
import { factor } from '../../../core/sound/level'
import { planOf, SHORT_END, type FactsOf, type Plan } from '../../../core/render/plan'
import { RATE } from '../../../core/time'
import { hear } from '../../sound/hear'

/** So much of two versions is listened to, to make them equally loud, in frames. */
const LISTENED = 60 * RATE
/** Nothing is made louder or softer by more than this, in dB. */
const MOST = 12

/**
 * What a piece is compared with: a version of it, or the tape as it was from its first frame to its last. A version sounds
 * as loud as the piece does.
 */
export function useCompared(piece: Actuality, plan: Plan, factsOf: FactsOf, against: Version | null): { spans: EditList; plan: Plan } {
  const { spans } = piece
  const compared = useMemo(() => {
    if (against) return { spans: against.spans, plan: piecePlan(asIn(piece, against), factsOf) }
    const [first, last] = [spans[0], spans[spans.length - 1]]
    const whole = first.tape === last.tape && last.to > first.from
    const list: EditList = whole
      ? [{ tape: first.tape, from: first.from, to: last.to, sound: 'tape' }]
      : spans.map(({ level: _, ...span }) => span)
    return { spans: list, plan: planOf(list, factsOf, SHORT_END, SHORT_END) }
    // what else a piece has makes no sound
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [spans, piece.sides, factsOf, against])
  const louder = useQuery({
    // a key is written out whole at each render: none of a long piece while nothing is compared
    queryKey: ['as loud as', ...(against ? [spans, piece.head, piece.tail, against] : [])],
    enabled: against !== null,
    queryFn: async ({ signal }) => {
      const loud = async (one: Plan) => (await hear({ plan: one, from: 0, to: Math.min(one.length, LISTENED) }, signal)).loudness.integrated
      const by = (await loud(plan)) - (await loud(compared.plan))
      return Number.isFinite(by) ? Math.max(-MOST, Math.min(MOST, by)) : 0
    },
  }).data
  return useMemo(() => {
    const gain = against && louder ? factor(louder) : 1
    return gain === 1
      ? compared
      : { ...compared, plan: { ...compared.plan, strips: compared.plan.strips.map((strip) => ({ ...strip, gain: strip.gain * gain })) } }
  }, [compared, against, louder])
}
