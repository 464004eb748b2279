import { firstWordAfter, type Word } from '../tape/words'
import type { Frames } from '../time'
import { spanLength, type EditList } from './editList'

/** A word as it stands in a piece: derived from the tape's words, never copied. */
export interface PieceWord extends Word {
  tape: string
  /** Where it sounds in the piece. */
  at: Frames
  end: Frames
}

export type WordsOf = (tape: string) => readonly Word[]

/** The words of a piece in order: those of which at least half of the sound was kept. */
export function pieceWords(list: EditList, wordsOf: WordsOf): PieceWord[] {
  const found: PieceWord[] = []
  let start = 0
  let last: Word | null = null
  for (const span of list) {
    if (span.sound === 'tape') {
      const words = wordsOf(span.tape)
      for (let i = firstWordAfter(words, span.from); i < words.length && words[i].from < span.to; i++) {
        const word = words[i]
        const from = Math.max(word.from, span.from)
        const to = Math.min(word.to, span.to)
        if ((to - from) * 2 < word.to - word.from || word === last) continue
        found.push({ ...word, tape: span.tape, at: start + from - span.from, end: start + to - span.from })
        last = word
      }
    }
    start += spanLength(span)
  }
  return found
}
