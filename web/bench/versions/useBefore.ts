import { useCallback, useState } from 'react'
import type { Actuality } from '../../../core/edits/actuality'
import { toBench, toPiece, type BenchLayout } from '../../../core/edits/benchLayout'
import { fromTape, toTape, type EditList } from '../../../core/edits/editList'
import { versionsOf } from '../../../core/edits/versions'
import type { FactsOf, Plan } from '../../../core/render/plan'
import type { Frames } from '../../../core/time'
import { player } from '../../sound/player'
import { useCompared } from './useCompared'

interface Heard {
  owner: string
  /** All of the piece, and what of it is heard. */
  whole: Plan
  plan: Plan
  factsOf: FactsOf
  layout: BenchLayout
}

/** The same frame of the tape in another list; its beginning where that is not in it. */
function across(from: EditList, to: EditList, at: Frames): Frames {
  const place = toTape(from, at)
  return (place && fromTape(to, place.tape, place.frame)) ?? 0
}

/** Hears, in step, what the piece is compared with: the tape as it was, or a version. Places on the Bench go with it. */
export function useBefore(piece: Actuality, { owner, whole, plan, factsOf, layout }: Heard) {
  const { spans } = piece
  const [before, setBefore] = useState(false)
  const [againstId, setAgainst] = useState<string | null>(null)
  const against = versionsOf(piece).find(({ id }) => id === againstId) ?? null
  const was = useCompared(piece, whole, factsOf, against)
  const toPlan = useCallback(
    (frame: Frames) => (before ? across(spans, was.spans, toPiece(layout, frame)) : toPiece(layout, frame)),
    [layout, before, spans, was],
  )
  const fromPlan = useCallback(
    (position: Frames) => toBench(layout, before ? across(was.spans, spans, position) : position),
    [layout, before, spans, was],
  )
  /** Goes over from one to the other; what plays goes on at the same frame. */
  const toggle = (place: Frames, playing: boolean) => {
    setBefore(!before)
    player.load(owner, before ? plan : was.plan)
    if (playing) void player.play(before ? place : across(spans, was.spans, place))
  }
  return { before, asEdited: () => setBefore(false), against, setAgainst, heard: before ? was.plan : plan, toPlan, fromPlan, toggle }
}
