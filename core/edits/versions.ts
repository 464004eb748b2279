import type { ActualityStep } from './actualitySteps'
import type { EditList } from './editList'
import { clipLength, keptOf, type Actuality, type Version } from './piece'
import { pieceWords, type PieceWord, type WordsOf } from './pieceWords'

export type { Version } from './piece'

/** What of a piece a version keeps, beside its spans. */
const KEPT = ['head', 'tail', 'sides', 'gain', 'fadeIn', 'fadeOut', 'cutHead', 'cutTail'] as const

export const versionsOf = (piece: Pick<Actuality, 'kept'>): Version[] => keptOf(piece, 'version')

/** Keeps the piece as it is now, as a version of this id and name. */
export const keepVersion = (piece: Actuality, as: Pick<Version, 'id' | 'name' | 'at'>): ActualityStep[] => {
  const { spans, head, tail, sides, gain, fadeIn, fadeOut, cutHead, cutTail } = piece
  const set = Object.fromEntries(
    Object.entries({ sides, gain, fadeIn, fadeOut, cutHead, cutTail }).filter(([, value]) => value !== undefined),
  )
  return [{ type: 'keep', step: { type: 'put', record: { ...as, kind: 'version', spans, head, tail, ...set } } }]
}

export const renameVersion = ({ id }: Version, name: string): ActualityStep[] => [
  { type: 'keep', step: { type: 'set', id, key: 'name', value: name } },
]

export const dropVersion = ({ id }: Version): ActualityStep[] => [{ type: 'keep', step: { type: 'drop', id } }]

/** A piece as it was in a version. */
export const asIn = (piece: Actuality, { id: _, kind: __, name: ___, at: ____, ...version }: Version): Actuality => ({
  ...piece,
  sides: undefined,
  gain: undefined,
  fadeIn: undefined,
  fadeOut: undefined,
  cutHead: undefined,
  cutTail: undefined,
  ...version,
})

/** The piece becomes what it was; what it is called, and its versions, stay. */
export const goBackTo = (piece: Actuality, version: Version): ActualityStep[] => [
  { type: 'replace', from: 0, to: clipLength(piece), insert: [...version.spans], after: null },
  ...KEPT.flatMap((key): ActualityStep[] => (version[key] === piece[key] ? [] : [{ type: 'set', key, value: version[key] }])),
]

export interface ComparedWord extends PieceWord {
  /** The other does not say it. */
  only: boolean
}

/**
 * The words of two versions, each with whether the other has it too. A word that is said twice in the one and once in the
 * other is told once more.
 */
export function comparedWords(one: EditList, other: EditList, wordsOf: WordsOf): [ComparedWord[], ComparedWord[]] {
  const lists = [one, other].map((list) => pieceWords(list, wordsOf))
  const keyOf = ({ tape, from }: PieceWord) => `${tape}/${from}`
  const against = (own: PieceWord[], others: PieceWord[]): ComparedWord[] => {
    const left = new Map<string, number>()
    for (const word of others) left.set(keyOf(word), (left.get(keyOf(word)) ?? 0) + 1)
    return own.map((word) => {
      const count = left.get(keyOf(word)) ?? 0
      left.set(keyOf(word), count - 1)
      return { ...word, only: count <= 0 }
    })
  }
  return [against(lists[0], lists[1]), against(lists[1], lists[0])]
}
