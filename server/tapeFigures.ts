import { readFile } from 'node:fs/promises'
import { loudnessFigures, type TapeFigures } from '../core/hearing/ear'
import { asHeard, loudnessOf, together } from '../core/hearing/loudness'
import { notFound } from './problem'
import type { Services } from './services'
import { tapeInfo } from './tapes'

/** What was found by listening to a tape; its loudness as its sides are heard now, which may have been told apart since. */
export async function figuresOfTape({ database, store }: Services, id: string): Promise<TapeFigures | null> {
  const [row] = await database.query<{ figures: TapeFigures | null }[]>('select figures from tape where id = $1', [id])
  if (!row) throw notFound('That tape')
  if (!row.figures) return null
  const { sides } = await tapeInfo(database, id)
  const powers = await Promise.all(
    sides
      .flatMap(({ channels }) => channels)
      .map(async (channel) => {
        const bytes = await readFile(store.loudness(id, channel))
        return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength))
      }),
  )
  return { ...row.figures, loudness: loudnessFigures(loudnessOf(together(powers, asHeard(sides)))) }
}
