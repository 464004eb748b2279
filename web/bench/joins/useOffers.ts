import { useEffect, useMemo, useState } from 'react'
import { joinOf } from '../../../core/cuts/inPiece'
import { nearPlaces } from '../../../core/cuts/nearPlaces'
import { otherPlaces } from '../../../core/cuts/otherPlaces'
import type { Cut } from '../../../core/edits/editList'
import type { WordsOf } from '../../../core/edits/pieceWords'
import type { FactsOf } from '../../../core/render/plan'
import type { Frames } from '../../../core/time'
import { placeCut } from '../../joins/placing'
import { MAY_BE_AUDIBLE } from '../../joins/Judgement'

/** Only what is better by so much is offered. */
const BETTER = 0.1
/** A hand that works comes first. */
const LOOK_AFTER_MS = 600

/** A place for a cut one word away. */
export interface Offer {
  left: Frames
  right: Frames
  /** What is then said otherwise: "with “the”", "without “the”"; empty where the same words are heard. */
  changes: string
}
type Offers = Record<'earlier' | 'later', Offer | null>

/**
 * Where else a cut may lie, one word earlier or later: at another of words that are said twice, or, where it is rough,
 * where it would be heard less.
 */
export function useOffers(cut: Cut | undefined, heard: number, factsOf: FactsOf, wordsOf: WordsOf): Offers {
  const words = cut && wordsOf(cut.left.tape)
  const same = useMemo(() => (cut && words ? otherPlaces(cut, words) : null), [cut, words])
  const [near, setNear] = useState<(Offers & { of: Cut }) | null>(null)
  useEffect(() => {
    if (!cut || !words || heard < MAY_BE_AUDIBLE) return
    let stopped = false
    const best = async (way: 'earlier' | 'later'): Promise<Offer | null> => {
      const order = joinOf(cut)
      let found: (Offer & { heard: number }) | null = null
      for (const { left, right, word, said } of order ? nearPlaces(cut, words)[way] : []) {
        const placed = await placeCut(
          { ...order!, left: { ...order!.left, asked: left }, right: { ...order!.right, asked: right } },
          factsOf,
          wordsOf,
        )
        if (placed && placed.heard < Math.min(heard - BETTER, found?.heard ?? 1))
          found = { left, right, heard: placed.heard, changes: `${said ? 'with' : 'without'} “${word}”` }
      }
      return found
    }
    const timer = setTimeout(async () => {
      const found = { of: cut, earlier: await best('earlier'), later: await best('later') }
      if (!stopped) setNear(found)
    }, LOOK_AFTER_MS)
    return () => {
      stopped = true
      clearTimeout(timer)
    }
  }, [cut, words, heard, factsOf, wordsOf])
  const offer = (way: 'earlier' | 'later'): Offer | null => {
    const edges = same?.[way]
    return edges ? { ...edges, changes: '' } : near && near.of === cut ? near[way] : null
  }
  return { earlier: offer('earlier'), later: offer('later') }
}
