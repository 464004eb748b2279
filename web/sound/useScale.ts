import { useQuery } from '@tanstack/react-query'
import { PEAK_LEVELS, PER_BIN } from '../../core/sound/peaks'
import type { TapeInfo } from '../../contract/tapes'
import { getBytes } from '../api/client'

/** How much a tape's wave is drawn up, so that quiet speech can be read too. It never changes the sound. */
export function useScale(tape: TapeInfo | undefined): number {
  const level = PEAK_LEVELS.length - 2
  const { data } = useQuery({
    queryKey: ['scale', tape?.id],
    enabled: tape?.state === 'ready',
    staleTime: Infinity,
    queryFn: async () => {
      const bins = Math.min(200_000, Math.ceil(tape!.frames / PEAK_LEVELS[level]))
      const peaks = new Int16Array(await getBytes(`/tapes/${tape!.id}/peaks/0/${level}?from=0&to=${bins}`))
      const highs = []
      for (let i = 0; i < peaks.length; i += PER_BIN) highs.push(Math.max(-peaks[i], peaks[i + 1]))
      highs.sort((a, b) => a - b)
      const loud = (highs[Math.floor(highs.length * 0.98)] ?? 32767) / 32767
      return Math.min(12, Math.max(1, 0.92 / Math.max(0.01, loud)))
    },
  })
  return data ?? 1
}
