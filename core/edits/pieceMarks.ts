import type { Mark } from '../tape/tape'
import type { Frames } from '../time'
import { spanLength, stands, type EditList } from './editList'

/** A mark of a tape, at the place of a piece that holds its frame. */
export interface PieceMark {
  mark: Mark
  tape: string
  at: Frames
}

/** The marks of its tapes that a piece holds the place of, in its order; one whose place stands twice shows twice. */
export function pieceMarks(list: EditList, marksOf: (tape: string) => readonly Mark[]): PieceMark[] {
  let start = 0
  return list.flatMap((span) => {
    const offset = start - span.from
    start += spanLength(span)
    // added room stands for nothing
    if (!stands(span)) return []
    return marksOf(span.tape)
      .filter(({ at }) => at >= span.from && at < span.to)
      .map((mark): PieceMark => ({ mark, tape: span.tape, at: mark.at + offset }))
  })
}
