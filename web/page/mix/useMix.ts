import { useEffect, useState } from 'react'
import { SILENCE } from '../../../core/hearing/ear'
import type { PlanLoudness } from '../../../core/render/meter'
import type { Plan } from '../../../core/render/plan'
import { hearAll } from '../../sound/hear'

/** Nearer to the target than this is on it, in LU (EBU R 128). */
const ON_TARGET = 0.5

/** How loud a plan is, measured anew after each act; null until it is known. */
function useLoudness(plan: Plan | null): PlanLoudness | 'failed' | null {
  const [found, setFound] = useState<{ of: Plan; loudness: PlanLoudness | 'failed' } | null>(null)
  useEffect(() => {
    if (!plan) return
    const off = new AbortController()
    hearAll(plan, off.signal).then(
      (loudness) => setFound({ of: plan, loudness }),
      () => off.signal.aborted || setFound({ of: plan, loudness: 'failed' }),
    )
    return () => off.abort()
  }, [plan])
  return found && found.of === plan ? found.loudness : null
}

/** How loud the file is, as it would be sent. */
export function useMix(filePlan: Plan | null, target: number) {
  const loudness = useLoudness(filePlan?.length ? filePlan : null)
  if (!loudness || loudness === 'failed' || loudness.integrated <= SILENCE)
    return {
      state: !filePlan?.length ? ('nothing' as const) : loudness === null ? ('measuring' as const) : ('failed' as const),
      target,
      away: null,
      turned: null,
    }
  const { integrated, shortTerm, truePeak, turned } = loudness
  const away = integrated - target
  return {
    state: 'known' as const,
    target,
    integrated,
    shortTerm,
    truePeak,
    /** Where it was so loud that it is turned down, in frames of the file. */
    turned,
    /** How much louder it is than the target, in LU. */
    away,
    onTarget: Math.abs(away) <= ON_TARGET,
  }
}

export const inLUFS = (loudness: number): string => `${loudness.toFixed(1).replace('-', '−')} LUFS`
