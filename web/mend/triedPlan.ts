import { toFacts, type TapeInfo } from '../../contract/tapes'
import { wholeTape } from '../../core/edits/ofTape'
import type { MendStep } from '../../core/mend/chain'
import { planOf, withSides, type Plan } from '../../core/render/plan'
import type { Side } from '../../core/tape/tape'
import { withTried } from './useTrying'

/** One side of a tape alone, as it sounds with steps that are tried on it. */
export function planWith(tape: TapeInfo, sides: readonly Side[], side: number, steps: readonly MendStep[]): Plan {
  const alone = withTried(sides, { side, steps }).filter((_, i) => i === side)
  return planOf(
    wholeTape(tape.id, tape.frames),
    withSides(() => toFacts(tape), { sides: { [tape.id]: alone } }),
  )
}
