import { useMemo } from 'react'
import type { TapeInfo } from '../../../contract/tapes'
import type { Actuality } from '../../../core/edits/actuality'
import type { BenchLayout } from '../../../core/edits/benchLayout'
import { othersOf, type FactsOf, type Plan } from '../../../core/render/plan'
import type { Frames } from '../../../core/time'
import type { SheetModel } from '../../sheet/paint/model'
import { useScale } from '../../sound/useScale'
import { Wave } from '../../sound/wave'
import { benchLines, benchLowCuts, benchNicks, benchPlan, benchShades, originalPlan } from '../benchSheet'
import type { useAlone } from '../levels/useVoices'

interface OnBench extends Pick<SheetModel, 'selection' | 'also' | 'marks' | 'found'> {
  piece: Actuality
  layout: BenchLayout
  shown: SheetModel['words']
  whole: Plan
  alone: ReturnType<typeof useAlone>
  factsOf: FactsOf
  mainTape: TapeInfo | undefined
  chosen: Frames | null
}

/** What the lines of a Bench show. */
export function useBenchModel({ piece, layout, shown, whole, alone, factsOf, mainTape, chosen, marks, found, selection, also }: OnBench) {
  const scale = useScale(mainTape)
  const wave = useMemo(() => new Wave(benchPlan(whole, layout, factsOf)), [whole, layout, factsOf])
  const second = useMemo(() => {
    const [, ...others] = alone.sides
    if (!others.length || others.some(({ channels }) => channels.length > 1)) return undefined
    return { wave: new Wave(benchPlan(othersOf(whole, alone.facts), layout, factsOf)), speakers: new Set(others.map(({ name }) => name)) }
  }, [alone.sides, alone.facts, whole, layout, factsOf])
  const original = useMemo(() => new Wave(originalPlan(piece, layout, factsOf)), [piece, layout, factsOf])
  const shades = useMemo(() => benchShades(layout), [layout])
  const model = useMemo(
    () => ({
      length: layout.length,
      words: shown,
      wave,
      second,
      original,
      scale,
      shades,
      used: [],
      nicks: benchNicks(piece, layout, chosen),
      lines: benchLines(layout),
      lowCuts: benchLowCuts(piece, layout),
      marks,
      found,
      selection,
      also,
    }),
    [layout, shades, shown, wave, second, original, scale, piece, chosen, marks, found, selection, also],
  )
  return { model, scale }
}
