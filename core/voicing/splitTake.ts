import { slice, spanAt } from '../edits/editList'
import { clipLength, type Actuality } from '../edits/piece'
import type { PieceWord } from '../edits/pieceWords'
import { plainWord } from '../page/anchors'
import type { Frames } from '../time'
import { copyWords, otherwise } from './asWritten'

/** Two takes of one, each with its share of the pause that lies between them. */
export interface SplitTake {
  first: Actuality
  second: Actuality
  /** The pause: the second is heard so long after the first, as before. */
  gap: Frames
}

/**
 * A voice track parted where its copy is: before the word that stands at the caret. Null where the take says none of the words on
 * one of the sides, where it is not known what it says, or where a patch lies over the place.
 */
export function splitTake(take: Actuality, words: readonly PieceWord[], copy: string, caret: number): SplitTake | null {
  const said = words.filter(({ text }) => plainWord(text))
  const at = wordAt(
    copy,
    caret,
    said.map(({ text }) => text),
  )
  return splitBefore(take, said, at)
}

/** A piece parted between two words, at the pause nearest to a place of it. Null where there is none, or a patch lies over it. */
export function splitPiece(piece: Actuality, words: readonly PieceWord[], place: Frames): SplitTake | null {
  const middles = words.slice(1).map((word, i) => (words[i].end + word.at) / 2)
  const nearest = middles.reduce((best, middle, i) => (Math.abs(middle - place) < Math.abs(middles[best] - place) ? i : best), 0)
  return splitBefore(piece, words, nearest + 1)
}

function splitBefore(take: Actuality, said: readonly PieceWord[], at: number): SplitTake | null {
  const [before, after] = [said[at - 1], said[at]]
  if (!before || !after || after.at < before.end) return null
  const place = Math.round((before.end + after.at) / 2)
  if (spanAt(take.spans, place)?.span.patch) return null
  const { cutHead, cutTail, fadeIn, fadeOut, kept: _, ...rest } = take
  const own = <T extends object>(fields: T) => Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== undefined)) as T
  return {
    first: {
      ...rest,
      ...own({ cutHead, fadeIn }),
      spans: slice(take.spans, 0, place),
      tail: place - before.end,
    },
    second: {
      ...rest,
      ...own({ cutTail, fadeOut }),
      spans: slice(take.spans, place, clipLength(take)),
      head: after.at - place,
    },
    gap: after.at - before.end,
  }
}

/** Which of the words that were said is the first after the caret; where others were said than are written, by what is like. */
function wordAt(copy: string, caret: number, said: readonly string[]): number {
  const written = copyWords(copy.slice(0, caret)).length
  let at = written
  for (const place of otherwise(copy, said)) {
    const [here, heard] = [count(place.written), count(place.said)]
    // what was put in just there belongs to what follows
    if (place.at === written) continue
    if (place.at + here <= written) at += heard - here
    else if (place.at < written) at += Math.min(heard, written - place.at) - (written - place.at)
  }
  return at
}

const count = (text: string): number => text.split(' ').filter(Boolean).length
