import { firstWordAfter, type Word } from '../tape/words'
import type { Frames } from '../time'
import { saidBy, spanLength, type EditList } from './editList'

/** A word as it stands in a piece: derived from the tape's words, never copied. */
export interface PieceWord extends Word {
  tape: string
  /** Where it sounds in the piece. */
  at: Frames
  end: Frames
}

export type WordsOf = (tape: string) => readonly Word[]

/** The words of a piece in order: those of which at least half of the sound was kept. What a patch stands for is said by it. */
export function pieceWords(list: EditList, wordsOf: WordsOf): PieceWord[] {
  const found: { word: PieceWord; kept: Frames; of: Word; to: Frames }[] = []
  let start = 0
  for (const span of list) {
    const length = spanLength(span)
    if (span.sound === 'tape') {
      const said = saidBy(span)
      const pace = length / Math.max(1, said.to - said.from)
      const at = (frame: Frames) => start + Math.round((frame - said.from) * pace)
      const words = wordsOf(said.tape)
      for (let i = firstWordAfter(words, said.from); i < words.length && words[i].from < said.to; i++) {
        const word = words[i]
        const from = Math.max(word.from, said.from)
        const to = Math.min(word.to, said.to)
        const last = found[found.length - 1]
        // a word may be cut through, or patched in its midst
        if (last?.of === word && from >= last.to) {
          last.kept += to - from
          last.to = to
          last.word.end = at(to)
        } else found.push({ word: { ...word, tape: said.tape, at: at(from), end: at(to) }, kept: to - from, of: word, to })
      }
    }
    start += length
  }
  return found.filter(({ kept, of }) => kept * 2 >= of.to - of.from).map(({ word }) => word)
}
