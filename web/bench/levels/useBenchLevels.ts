import { useCallback } from 'react'
import type { Actuality } from '../../../core/edits/actuality'
import { piecePlan } from '../../../core/page/plan'
import type { Plan } from '../../../core/render/plan'
import { useLevels } from '../../levels/useLevels'
import type { Bench } from '../bench'
import { useLineOnTape } from './useLineOnTape'
import { useLowCut } from './useLowCut'
import type { useAlone } from './useVoices'

/** Levels of a piece, its gain, and low cuts: one panel. `whole`: the plan of all that sounds of it. */
export function useBenchLevels(bench: Bench, whole: Plan, alone: ReturnType<typeof useAlone>) {
  const { live, piece, factsOf, act } = bench
  const planOf = useCallback((of: Actuality) => piecePlan(of, factsOf), [factsOf])
  const { lowCut, commands } = useLowCut(bench, bench.passages)
  const levels = useLevels({
    ...bench,
    now: () => live.body,
    plan: whole,
    planOf,
    side: alone.addressed,
    lowCut,
    gain: { value: piece.gain ?? 0, set: (dB) => act([{ type: 'set', key: 'gain', value: dB === 0 ? undefined : dB }], 'gain') },
    onTape: useLineOnTape(bench),
  })
  return { ...levels, commands: { ...levels.commands, ...commands } }
}
