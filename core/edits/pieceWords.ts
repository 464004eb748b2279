import { firstWordAfter, type Word } from '../tape/words'
import type { Frames } from '../time'
import type { Side } from '../tape/tape'
import type { Actuality } from './piece'
import { isRoom, saidBy, spanLength, type EditList, type Span } from './editList'

/** A word as it stands in a piece: derived from the tape's words, never copied. */
export interface PieceWord extends Word {
  tape: string
  /** Where it sounds in the piece. */
  at: Frames
  end: Frames
}

export type WordsOf = (tape: string) => readonly Word[]

/** By how much what a side says in a span is heard later than it was said. */
function slipOf(span: Span, sides: readonly Side[] | undefined, speaker: string | undefined): Frames {
  const side = sides?.findIndex(({ name }) => name === speaker) ?? -1
  return side < 0 ? 0 : (sides![side].slip ?? 0) + (span.slip?.[side] ?? 0)
}

/** Whether the side that says a word is muted for most of it: by the span that holds it, else by the tape. */
export function isSideMuted(word: Word, sides: readonly Side[] | undefined, { mutes }: Pick<Span, 'mutes'>): boolean {
  const side = sides?.findIndex(({ name }) => name === word.speaker) ?? -1
  if (side < 0) return false
  const here = mutes?.[side] ?? null
  if (here !== null) return here
  const hush = sides![side].hush ?? []
  return (
    2 * hush.reduce((sum, { from, to }) => sum + Math.max(0, Math.min(to, word.to) - Math.max(from, word.from)), 0) > word.to - word.from
  )
}

/**
 * The words of a piece in order: those of which at least half of the sound was kept. What a patch
 * stands for is said by it. With its sides, what one of them was muted in is not among them, and
 * what was slipped stands where it is heard.
 */
export function pieceWords(list: EditList, wordsOf: WordsOf, sides: Actuality['sides'] = {}): PieceWord[] {
  const found: { word: PieceWord; kept: Frames; of: Word; to: Frames }[] = []
  let start = 0
  let moved = false
  for (const span of list) {
    const length = spanLength(span)
    if (!isRoom(span)) {
      const said = saidBy(span)
      const pace = length / Math.max(1, said.to - said.from)
      const at = (frame: Frames) => start + Math.round((frame - said.from) * pace)
      const words = wordsOf(said.tape)
      const own = sides[said.tape]
      const most = Math.max(0, ...(own ?? []).map(({ name }) => Math.abs(slipOf(span, own, name))))
      if (most) moved = true
      for (let i = firstWordAfter(words, said.from - most); i < words.length && words[i].from < said.to + most; i++) {
        const word = words[i]
        const slip = slipOf(span, own, word.speaker)
        const from = Math.max(word.from + slip, said.from)
        const to = Math.min(word.to + slip, said.to)
        if (to <= from || isSideMuted(word, own, span)) continue
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
  const whole = found.filter(({ kept, of }) => kept * 2 >= of.to - of.from).map(({ word }) => word)
  return moved ? whole.sort((a, b) => a.at - b.at) : whole
}
