import type { Plan } from '../../../core/render/plan'
import { useMeasured } from '../../levels/useMeasured'
import { SILENCE } from '../../../core/hearing/ear'

/** Nearer to the target than this is on it, in LU (EBU R 128). */
const ON_TARGET = 0.5

/** How loud the file is, as it would be sent; measured anew after each act. */
export function useMix(filePlan: Plan | null, target: number) {
  const figures = useMeasured(filePlan?.length ? filePlan : null, 0, filePlan?.length ?? 0)
  if (!figures || figures === 'failed' || figures.loudness.integrated <= SILENCE)
    return {
      state: !filePlan?.length ? ('nothing' as const) : figures === null ? ('measuring' as const) : ('failed' as const),
      target,
      away: null,
    }
  const { integrated, shortTerm } = figures.loudness
  const away = integrated - target
  return {
    state: 'known' as const,
    target,
    integrated,
    shortTerm,
    truePeak: Math.max(...figures.channels.map(({ truePeak }) => truePeak)),
    /** How much louder it is than the target, in LU. */
    away,
    onTarget: Math.abs(away) <= ON_TARGET,
  }
}

export const inLUFS = (loudness: number): string => `${loudness.toFixed(1).replace('-', '−')} LUFS`
