import { firstWhere } from '../search'
import type { SaidWord, Transcript, TranscriptStep } from './transcript'

/**
 * Puts words where they sound among those that are there. What lies, for the most part, where the
 * same voice says something already is left out: what a person wrote is not written over.
 * `words`: in order.
 */
export function inserted({ words: present }: Transcript, words: readonly SaidWord[]): TranscriptStep[] {
  const runs: { at: number; words: SaidWord[] }[] = []
  for (const word of words) {
    const at = firstWhere(present.length, (i) => present[i].from > word.from)
    if (taken(present, word, at)) continue
    const run = runs.at(-1)
    if (run?.at === at) run.words.push(word)
    else runs.push({ at, words: [word] })
  }
  // the last first, so that each stands where it was looked up
  return runs.reverse().map((run) => ({ type: 'words', at: run.at, out: [], in: run.words }))
}

/** Two sides can speak at once, so several words back may still be going on. */
const LOOK_BACK = 6

function taken(present: readonly SaidWord[], word: SaidWord, at: number): boolean {
  for (let i = Math.max(0, at - LOOK_BACK); i < present.length && present[i].from < word.to; i++) {
    const other = present[i]
    const both = Math.min(other.to, word.to) - Math.max(other.from, word.from)
    // where nobody is named, whoever speaks is the same voice
    if ((other.voice === word.voice || !word.voice) && both * 2 > Math.min(word.to - word.from, other.to - other.from)) return true
  }
  return false
}
