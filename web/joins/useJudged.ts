import { useEffect, useState } from 'react'
import { joinOf } from '../../core/cuts/inPiece'
import type { Prediction } from '../../core/cuts/predict'
import { isRoom, type Edit } from '../../core/edits/editList'
import type { WordsOf } from '../../core/edits/pieceWords'
import type { FactsOf } from '../../core/render/plan'
import { judgeCut } from './placing'

const keyOf = ({ left, right, room }: Edit): string =>
  `${left.tape}/${left.to}/${isRoom(left)}/${room}/${right.tape}/${right.from}/${isRoom(right)}`
/** What is known of joins, the same for every view. */
const known = new Map<string, Prediction>()
/** No more are remembered; the oldest go. */
const MOST_KNOWN = 5000

function remember(cut: Edit, found: Prediction): void {
  known.set(keyOf(cut), found)
  const [oldest] = known.keys()
  if (known.size > MOST_KNOWN) known.delete(oldest)
}

/** A hand that works comes first, and so does the join that it works on. */
const CHOSEN_AFTER_MS = 250
const OTHERS_AFTER_MS = 1500
/** Joins are shown as judged so many at a time, with a breath between them. */
const TOGETHER = 12
const BREATH_MS = 60

const wait = (ms: number) => new Promise((done) => setTimeout(done, ms))

/** How likely each join is to be heard, as it gets known. */
export function useJudged(
  all: readonly Edit[],
  chosen: Edit | undefined,
  factsOf: FactsOf,
  wordsOf: WordsOf,
): (cut: Edit) => Prediction | undefined {
  const [, redraw] = useState(0)
  useEffect(() => {
    let stopped = false
    const judge = async (cuts: readonly Edit[]) => {
      let fresh = 0
      const show = () => {
        if (fresh && !stopped) redraw((count) => count + 1)
        fresh = 0
      }
      for (const cut of cuts) {
        const order = joinOf(cut)
        if (!order || known.has(keyOf(cut))) continue
        const found = await judgeCut(order, cut.room, factsOf, wordsOf)
        if (found) remember(cut, found)
        if (found && ++fresh === TOGETHER) show()
        await wait(BREATH_MS)
        if (stopped) return
      }
      show()
    }
    void (async () => {
      await wait(CHOSEN_AFTER_MS)
      if (!stopped && chosen) await judge([chosen])
      await wait(OTHERS_AFTER_MS)
      if (!stopped) await judge(all)
    })()
    return () => {
      stopped = true
    }
  }, [all, chosen, factsOf, wordsOf])
  return (cut) => known.get(keyOf(cut))
}
