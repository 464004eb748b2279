import { isRoom, saidBy, spanLength } from '../edits/editList'
import type { Actuality } from '../edits/piece'
import { pieceWords, type WordsOf } from '../edits/pieceWords'
import type { Frames } from '../time'
import type { Said } from './lay'

/** What is said in a piece, for what holds on to its words on a page. */
export const saidIn = ({ spans, sides }: Actuality, wordsOf: WordsOf): Said => ({
  words: () => pieceWords(spans, wordsOf, sides).map(({ text, at }) => ({ text, at })),
  place(tape, frame) {
    let nearest: { at: Frames; stands: boolean; away: Frames } | null = null
    let start = 0
    for (const span of spans) {
      const said = saidBy(span)
      if (said.tape === tape && !isRoom(span)) {
        const within = Math.min(said.to, Math.max(said.from, frame))
        const away = Math.abs(frame - within)
        const pace = spanLength(span) / Math.max(1, said.to - said.from)
        if (!nearest || away < nearest.away)
          nearest = { at: start + Math.round((within - said.from) * pace), stands: away === 0 && frame < said.to, away }
      }
      start += spanLength(span)
    }
    return nearest && { at: nearest.at, stands: nearest.stands }
  },
})
