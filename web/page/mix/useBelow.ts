import { useQuery } from '@tanstack/react-query'
import type { PlacedHanger } from '../../../core/page/lay'
import type { FactsOf } from '../../../core/render/plan'
import { loudnessOfTape } from '../../levels/voiceLoudness'

/** How far a bed lies below the voices where it is under, in dB; null while that is not known. `voice`: how loud these are, in LUFS. */
export function useBelow(one: PlacedHanger | null, voice: number | null, factsOf: FactsOf | undefined): number | null {
  const plays = one && 'tape' in one.hanger.plays ? one.hanger.plays : null
  const { data } = useQuery({
    queryKey: ['loudness', plays?.tape, plays?.from, plays?.to],
    enabled: Boolean(plays && factsOf && factsOf(plays.tape).frames > 0),
    staleTime: Infinity,
    queryFn: () => loudnessOfTape(plays!.tape, plays!.from, plays!.to, factsOf!),
  })
  if (!one || voice === null || data === undefined || !Number.isFinite(data)) return null
  const { hanger, lane } = one
  return voice - (data + hanger.gain + lane.gain + (hanger.dip?.dB ?? 0))
}
