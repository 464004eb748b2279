import { useEffect, useRef, useState } from 'react'
import { joinOf } from '../../core/cuts/inPiece'
import type { Prediction } from '../../core/cuts/predict'
import { isRoom, type Edit } from '../../core/edits/editList'
import type { WordsOf } from '../../core/edits/pieceWords'
import type { FactsOf } from '../../core/sound/plan'
import { judgeCut } from './placing'

const keyOf = ({ left, right, room }: Edit): string => `${left.tape}/${left.to}/${isRoom(left)}/${room}/${right.tape}/${right.from}/${isRoom(right)}`
/** A hand that works comes first, and so does the join that it works on. */
const CHOSEN_AFTER_MS = 250
const OTHERS_AFTER_MS = 1500
/** Joins are shown as judged so many at a time, with a breath between them. */
const TOGETHER = 12
const BREATH_MS = 60

const wait = (ms: number) => new Promise((done) => setTimeout(done, ms))

/** How likely each join is to be heard, as it gets known. */
export function useJudged(all: readonly Edit[], chosen: Edit | undefined, factsOf: FactsOf, wordsOf: WordsOf): (cut: Edit) => Prediction | undefined {
  const known = useRef(new Map<string, Prediction>())
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
        if (!order || known.current.has(keyOf(cut))) continue
        const found = await judgeCut(order, cut.room, factsOf, wordsOf)
        if (found) known.current.set(keyOf(cut), found)
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
  return (cut) => known.current.get(keyOf(cut))
}
