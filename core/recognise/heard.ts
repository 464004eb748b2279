/** A word as a recogniser gives it: times in seconds from the start of what it was given. */
export interface HeardWord {
  text: string
  from: number
  to: number
  /** 0 to 1. */
  sure: number
  what?: 'filler' | 'noise'
}

const FILLERS = new Set('um uh er erm ah eh hm hmm mm mhm uhm'.split(' '))

/** Whether a word is one that fills a pause for thought. */
export const isFiller = (word: string): boolean => FILLERS.has(word)
