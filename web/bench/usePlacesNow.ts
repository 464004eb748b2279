import { useEffect, useMemo } from 'react'
import { mapPosition, type ActualityStep } from '../../core/edits/actuality'
import type { EditList } from '../../core/edits/editList'
import type { Frames } from '../../core/time'
import type { LiveDocument } from '../documents/liveDocument'

/** So many steps are looked back on. */
const MOST = 200

/**
 * Where a place of an earlier state of a piece lies in it now: a list beside the Sheet may be a moment old when
 * somebody clicks in it.
 */
export function usePlacesNow(live: LiveDocument<'actuality'>): (spans: EditList, place: Frames) => Frames {
  const log = useMemo(() => ({ steps: [] as ActualityStep[], begun: 0, stood: new WeakMap<EditList, number>() }), [])
  useEffect(() => {
    log.stood.set(live.body.spans, log.begun + log.steps.length)
    return live.onSteps((steps) => {
      log.steps.push(...(steps as ActualityStep[]))
      const over = Math.max(0, log.steps.length - MOST)
      log.steps.splice(0, over)
      log.begun += over
      log.stood.set(live.body.spans, log.begun + log.steps.length)
    })
  }, [live, log])
  return (spans, place) => {
    const since = (log.stood.get(spans) ?? Infinity) - log.begun
    return log.steps.slice(Math.max(0, since)).reduce((position, step) => mapPosition(step, position), place)
  }
}
