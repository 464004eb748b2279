import { useQuery } from '@tanstack/react-query'
import type { TapeInfo } from '../../contract/tapes'
import type { MendStep } from '../../core/mend/chain'
import type { Side } from '../../core/tape/tape'
import { RATE, type Stretch } from '../../core/time'
import { lookAt } from '../sound/hear'
import type { Look } from '../sound/hearing.worker'
import { LevelBox } from './LevelBox'
import { SpectrumBox } from './SpectrumBox'
import { planWith } from './triedPlan'

interface Props {
  tape: TapeInfo
  sides: readonly Side[]
  side: number
  steps: readonly MendStep[]
  /** What is looked at: the first few seconds of it. */
  over: Stretch
}

const MOST = 5 * RATE
const PARTS = 125
/** Of both boxes and what stands below them, in pixels, while they are worked out. */
const HIGH = 154

/** What a treatment does to a stretch, to be seen: its spectrum and its level before and after, one over the other. */
export function BeforeAfter({ tape, sides, side, steps, over }: Props) {
  const to = Math.min(over.to, over.from + MOST)
  const look = (tried: readonly MendStep[], what: string) => ({
    queryKey: ['mendLook', tape.id, side, what, tried, over.from, to],
    enabled: to > over.from,
    staleTime: Infinity,
    retry: false,
    placeholderData: (before: Look | undefined) => before,
    queryFn: ({ signal }: { signal: AbortSignal }) =>
      lookAt({ plan: planWith(tape, sides, side, tried), from: over.from, to, parts: PARTS }, signal),
  })
  const before = useQuery(look([], 'before')).data
  const after = useQuery(look(steps, 'after')).data
  const noise = steps.find((step) => step.kind === 'noise' && !step.off)
  const learnt = noise?.kind === 'noise' ? noise.learnt : undefined
  if (!before?.bands.length || !after?.bands.length) return <div style={{ height: HIGH }} />
  return (
    <figure>
      <SpectrumBox before={before.bands} after={after.bands} learnt={learnt} />
      <LevelBox before={before.levels} after={after.levels} />
      <figcaption className="flex gap-3 text-[11.5px] text-faint">
        <span>before</span>
        <span className="text-tape">after</span>
        {learnt && <span>grey: the noise learnt</span>}
      </figcaption>
    </figure>
  )
}
