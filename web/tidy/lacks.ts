import type { Looked } from '../../core/tidy/finder'
import { RATE } from '../../core/time'

/** Shorter tape holds nothing to tidy, in frames. */
const SHORTEST = 3 * RATE

/** Why finders find nothing, in a sentence; null where they may. */
export function lacksOf({ frames, words, heard }: Looked): string | null {
  if (frames < SHORTEST) return 'This tape is too short to tidy.'
  if (!heard || words.length) return null
  if (heard.every(({ level }) => level === null)) return 'Nobody is heard on this tape: there is nothing to tidy.'
  return 'Nothing is open. This tape has no transcript yet: words said twice and retakes are found once it has one.'
}
