import { useQuery } from '@tanstack/react-query'
import type { TapeInfo } from '../../contract/tapes'
import type { MendStep } from '../../core/mend/chain'
import type { Side } from '../../core/tape/tape'
import type { Stretch } from '../../core/time'
import { hear } from '../sound/hear'
import { planWith } from './triedPlan'

/** Nothing is turned by more than this, in dB. */
const MOST = 18
/** What is softer than this, in LUFS, says nothing of loudness. */
const SOFTEST = -70

interface Order {
  tape: TapeInfo
  sides: readonly Side[]
  side: number
  steps: readonly MendStep[]
  /** What loudness is told by. */
  over: Stretch
  on: boolean
}

/** By how many dB steps have to be turned so that a side is as loud with them as it was recorded; 0 while nobody knows. */
export function useEqualLoudness({ tape, sides, side, steps, over, on }: Order): number {
  const query = useQuery({
    queryKey: ['equal loudness', tape.id, side, steps, over.from, over.to],
    enabled: on && steps.length > 0 && over.to > over.from,
    staleTime: Infinity,
    queryFn: async ({ signal }) => {
      const loudness = async (tried: readonly MendStep[]) =>
        (await hear({ plan: planWith(tape, sides, side, tried), from: over.from, to: over.to }, signal)).loudness.integrated
      const [before, after] = await Promise.all([loudness([]), loudness(steps)])
      if (before < SOFTEST || after < SOFTEST) return 0
      return Math.round(10 * Math.max(-MOST, Math.min(MOST, before - after))) / 10
    },
  })
  return on ? (query.data ?? 0) : 0
}
