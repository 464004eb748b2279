import { sections } from '../../core/align/anchors'
import type { Word } from '../../core/tape/words'
import type { Frames, Stretch } from '../../core/time'
import type { Services } from '../services'
import { align, type AlignOptions } from './align'

const AT_ONCE = 2

/**
 * Lays a whole text on a tape. `guide`: what was recognised there, with times; it holds long texts
 * in place. Gives where each word is said, null for one that is not. `progress`: 0 to 1; false from
 * it ends the work.
 */
export async function lay(
  services: Services,
  tape: string,
  channels: readonly number[],
  length: Frames,
  texts: readonly string[],
  guide: readonly Word[],
  options: AlignOptions,
  progress: (share: number) => unknown = () => undefined,
): Promise<(Stretch | null)[]> {
  const all = sections(texts, guide, length)
  const places: (Stretch | null)[] = texts.map(() => null)
  let done = 0
  const waiting = [...all]
  const worker = async () => {
    for (let section = waiting.shift(); section && !options.signal?.aborted; section = waiting.shift()) {
      const { first, count, stretch } = section
      const found = await align(services, tape, channels, stretch, texts.slice(first, first + count), options)
      found.forEach((place, i) => (places[first + i] = place))
      progress(++done / all.length)
    }
  }
  await Promise.all(Array.from({ length: AT_ONCE }, worker))
  return places
}
