import { ENDS, type Word } from '../tape/words'
import { toFrames, type Frames } from '../time'
import { bare } from './bare'

/** What one speaker says in one go, as it is filed to be found again. */
export interface Phrase {
  from: Frames
  to: Frames
  speaker: string
  words: readonly Word[]
  /** The next words of the same speaker: what is looked for may begin here and end there. */
  ahead: readonly Word[]
}

const LONGEST = 24
const PAUSE = toFrames(1.5)
/** As many words as can be looked for across the end of a phrase. */
const AHEAD = 5

/** The words in phrases, each speaker's for themselves: what another puts in between breaks none. */
export function phrasesOf(words: readonly Word[]): Phrase[] {
  const bySpeaker = new Map<string, Word[]>()
  for (const word of words) {
    if (!bare(word.text)) continue
    const speaker = word.speaker ?? ''
    const said = bySpeaker.get(speaker)
    if (said) said.push(word)
    else bySpeaker.set(speaker, [word])
  }
  return [...bySpeaker].flatMap(([speaker, said]) => {
    const phrases: Phrase[] = []
    let first = 0
    said.forEach((word, i) => {
      const next = said[i + 1]
      if (next && !ENDS.test(word.text) && next.from - word.to < PAUSE && i - first < LONGEST - 1) return
      phrases.push({
        from: said[first].from,
        to: word.to,
        speaker,
        words: said.slice(first, i + 1),
        ahead: said.slice(i + 1, i + 1 + AHEAD),
      })
      first = i + 1
    })
    return phrases
  })
}
