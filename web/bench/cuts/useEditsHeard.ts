import { useEffect, useRef } from 'react'
import { mapPosition, type ActualityStep } from '../../../core/edits/actuality'
import { toPiece, type BenchLayout } from '../../../core/edits/benchLayout'
import type { Plan } from '../../../core/render/plan'
import type { Frames } from '../../../core/time'
import type { LiveDocument } from '../../documents/liveDocument'
import { player } from '../../sound/player'
import { remapOf, type Remap } from '../../sound/remap'

interface Edited {
  owner: string
  live: LiveDocument<'actuality'>
  layout: BenchLayout
  /** What of the piece is heard, and whether it is what plays. */
  plan: Plan
  heard: boolean
}

/**
 * An edit made while it plays, by whomever, is heard without stopping; `follow` takes places along, given how those of the
 * Bench become those of the piece after it, and those of the piece.
 */
export function useEditsHeard(
  { owner, live, layout, plan, heard }: Edited,
  follow: (ofBench: (frame: Frames, side?: 'before' | 'after') => Frames, ofPiece: (place: Frames) => Frames) => void,
): void {
  const now = useRef({ layout, plan, follow })
  now.current = { layout, plan, follow }
  /** What was done since the player was last told, and how long the piece was then. */
  const since = useRef<{ steps: ActualityStep[]; length: Frames } | null>(null)
  useEffect(
    () =>
      live.onSteps((steps) => {
        const list = steps as ActualityStep[]
        since.current = { steps: [...(since.current?.steps ?? []), ...list], length: since.current?.length ?? now.current.plan.length }
        const mapAll = (at: Frames, side: 'before' | 'after' = 'after') =>
          list.reduce((position, step) => mapPosition(step, position, side), at)
        now.current.follow(
          (frame, side) => mapAll(toPiece(now.current.layout, frame), side),
          (place) => mapAll(place),
        )
      }),
    [live],
  )
  useEffect(() => {
    const remap: Remap = since.current ? remapOf(since.current.steps, since.current.length) : [{ from: 0, length: plan.length, to: 0 }]
    since.current = null
    if (player.owner === owner && heard) player.exchange(owner, plan, remap)
  }, [plan, owner, heard])
}
