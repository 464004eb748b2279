import { useEffect, useRef, useState } from 'react'
import type { WordsOf } from '../../core/edits/pieceWords'
import type { FactsOf } from '../../core/render/plan'
import { bestOf, isPause, waysOut, type Outlook } from '../../core/tidy/outlook'
import { reachOf, withEdges } from '../../core/tidy/margins'
import type { Frames } from '../../core/time'
import { judgeCut, placeCut } from '../joins/placing'
import { keyOf, type Place } from './useKinds'

/** A way out that is as good as this needs no other beside it. */
const GOOD = 0.15
/** A place with what goes there: where a figure was turned, another part of it does. */
const asProposed = (place: Place): string => {
  const { proposes } = place
  return 'goes' in proposes ? `${keyOf(place)} ${proposes.goes.from} ${proposes.goes.to}` : keyOf(place)
}

/** After so long nobody is turning a figure any more. */
const AT_REST_MS = 250
/** Shown so many at a time. */
const TOGETHER = 12

/**
 * Outlooks of places that take something out, one after the other in the background; each is worked out once. Pauses stay as
 * long as was proposed, all else is placed where it is heard least.
 */
export function usePredictions(places: readonly Place[], first: Place | null, factsOf: FactsOf, wordsOf: WordsOf) {
  const [known, setKnown] = useState<ReadonlyMap<string, Outlook>>(new Map())
  const all = useRef(new Map<string, Promise<Outlook | null>>())
  const outlookOf = (place: Place): Promise<Outlook | null> => {
    const key = asProposed(place)
    const before = all.current.get(key)
    if (before) return before
    const made = look(place, factsOf, wordsOf).catch(() => null)
    all.current.set(key, made)
    return made
  }
  useEffect(() => {
    let stopped = false
    const work = async () => {
      const more = new Map<string, Outlook>()
      const show = () => {
        if (!more.size || stopped) return
        const ready = [...more]
        more.clear()
        setKnown((before) => new Map([...before, ...ready]))
      }
      for (const place of first ? [first, ...places] : places) {
        if (stopped) return
        if (known.has(asProposed(place)) || !('goes' in place.proposes) || place.decided) continue
        const outlook = await outlookOf(place)
        if (outlook) more.set(asProposed(place), outlook)
        if (more.size >= TOGETHER || place === first) show()
      }
      show()
    }
    // not while a figure is being turned
    const timer = setTimeout(() => void work(), AT_REST_MS)
    return () => {
      stopped = true
      clearTimeout(timer)
    }
    // what is known only grows
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [places, first, factsOf, wordsOf])
  return { outlookFor: (place: Place) => known.get(asProposed(place)), outlookOf }
}

/** How a place would sound once it is taken out; null where that cannot be told. */
export async function look(place: Place, factsOf: FactsOf, wordsOf: WordsOf): Promise<Outlook | null> {
  const { tape, bare, edge = 0 } = place
  const found = bare ? { ...place, proposes: bare } : place
  const pause = isPause(found)
  const outlooks: Outlook[] = []
  for (const order of waysOut(found, wordsOf(tape), tape, factsOf(tape).frames)) {
    if (pause) {
      const judged = await judgeCut(order, 0, factsOf, wordsOf)
      if (judged) outlooks.push({ ...judged, goes: { from: order.left.asked, to: order.right.asked }, room: 0 })
    } else {
      const placed = await placeCut(order, factsOf, wordsOf)
      if (placed) outlooks.push({ heard: placed.heard, why: placed.why, goes: { from: placed.left, to: placed.right }, room: placed.lacks })
    }
    if (outlooks.some(({ heard }) => heard < GOOD)) break
  }
  const best = bestOf(outlooks)
  return best && edge ? atEdges(best, edge, found, factsOf, wordsOf) : best
}

/** A cut that was placed, with so much more left at its edges. */
async function atEdges(best: Outlook, edge: Frames, place: Place, factsOf: FactsOf, wordsOf: WordsOf): Promise<Outlook | null> {
  const { tape } = place
  const goes = withEdges(best.goes, edge, reachOf(place, wordsOf(tape)))
  if (!goes) return best
  const side = (asked: Frames) => ({ tape, asked, low: asked, high: asked })
  const judged = await judgeCut({ left: side(goes.from), right: side(goes.to) }, best.room, factsOf, wordsOf)
  return judged && { ...judged, goes, room: best.room }
}
