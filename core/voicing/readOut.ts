import type { Word } from '../tape/words'
import type { SaidWord, Transcript, TranscriptStep } from '../transcript/transcript'

const share = (a: { from: number; to: number }, b: { from: number; to: number }): number =>
  (Math.min(a.to, b.to) - Math.max(a.from, b.from)) / Math.max(1, Math.min(a.to - a.from, b.to - b.from))

/** Two words that lie over one another by more than this share of the shorter are the same sound. */
const SAME = 0.3

/**
 * The step by which words of copy that was read, found on the sound, take the place of what was heard there; what a person has
 * checked stays, and so does what was said besides. `read`: in any order. Empty where nothing changes.
 */
export function readOut({ words }: Transcript, read: readonly Word[]): TranscriptStep[] {
  const checked = words.filter((word) => word.checked)
  const fresh = read.filter((word) => !checked.some((other) => share(word, other) > SAME))
  if (!fresh.length) return []
  const gone = new Set(words.filter((word) => !word.checked && fresh.some((other) => share(word, other) > SAME)))
  const voice = [...gone].find((word) => word.voice)?.voice
  const put = fresh.map(({ text, from, to }): SaidWord => ({ text, from, to, ...(voice ? { voice } : {}) }))
  return [{ type: 'words', at: 0, out: words, in: [...words.filter((word) => !gone.has(word)), ...put].sort((a, b) => a.from - b.from) }]
}
