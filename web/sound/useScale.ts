import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { PEAK_LEVELS, PER_BIN } from '../../core/sound/peaks'
import type { TapeInfo } from '../../contract/tapes'
import { getBytes } from '../api/client'

/** How much a tape's wave is drawn up, so that quiet speech can be read too. It never changes the sound. */
export function useScale(tape: TapeInfo | undefined): number {
  const level = PEAK_LEVELS.length - 2
  const { data } = useQuery({
    // one that grows is looked at again whenever it is twice as long
    queryKey: ['scale', tape?.id, tape?.state === 'arriving' ? Math.floor(Math.log2(tape.frames + 1)) : ''],
    enabled: Boolean(tape?.frames),
    staleTime: Infinity,
    placeholderData: keepPreviousData,
    queryFn: async () => {
      const bins = Math.min(200_000, Math.ceil(tape!.frames / PEAK_LEVELS[level]))
      const channels = tape!.sides.flatMap((side) => side.channels)
      const loudest = await Promise.all(
        channels.map(async (channel) =>
          loudOf(new Int16Array(await getBytes(`/tapes/${tape!.id}/peaks/sound/${channel}/${level}?from=0&to=${bins}`))),
        ),
      )
      const loud = Math.max(...loudest) / 32767
      return Math.min(12, Math.max(1, 0.92 / Math.max(0.01, loud)))
    },
  })
  return data ?? 1
}

/** The height that few bins go beyond. */
function loudOf(peaks: Int16Array): number {
  const highs: number[] = []
  for (let i = 0; i < peaks.length; i += PER_BIN) highs.push(Math.max(-peaks[i], peaks[i + 1]))
  highs.sort((a, b) => a - b)
  return highs[Math.floor(highs.length * 0.98)] ?? 32767
}
