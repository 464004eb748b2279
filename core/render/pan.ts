import { rise } from '../sound/fade'
import type { Frames } from '../time'
import type { Pan, PanPoint, Plan } from './plan'

/** A place between left (−1) and right (1), from a frame of the plan on to the next. */
export interface PanAt {
  at: Frames
  to: number
}

/** On its way from one place to the next a sound is led along the arc in steps of this. */
const STEP = 0.1

/**
 * The factors of a place between left and right: the middle stays as loud as it was, and the power of both together is the same
 * everywhere, so that the sides are 3 dB up (constant-power law, with the quarter sine of fades).
 */
export function earsAt(to: number): Pick<Pan, 'left' | 'right'> {
  if (to === 0) return { left: 1, right: 1 }
  return { left: Math.SQRT2 * rise('power', (1 - to) / 2), right: Math.SQRT2 * rise('power', (1 + to) / 2) }
}

/** A plan that is heard from a place, or moves from each to the next. A stereo sound keeps its channels, one softer than the other. */
export function panned(plan: Plan, stops: readonly PanAt[] | undefined): Plan {
  if (!stops?.some(({ to }) => to !== 0)) return plan
  const ordered = [...stops].sort((a, b) => a.at - b.at)
  const still = ordered.every(({ to }) => to === ordered[0].to)
  const [first] = ordered
  const points = still ? [] : alongArc(ordered)
  const strips = plan.strips.map((strip) => {
    const { left, right } = strip.pan
    const upon = (ears: Pick<Pan, 'left' | 'right'>) => ({ left: left * ears.left, right: right * ears.right })
    if (still) return { ...strip, pan: upon(earsAt(first.to)) }
    return { ...strip, pan: { ...upon(earsAt(first.to)), moves: points.map(({ at, ...ears }) => ({ at, ...upon(ears) })) } }
  })
  return { ...plan, channels: 2, strips }
}

/** Between two points the renderer goes straight: on an arc it needs more of them. */
function alongArc(stops: readonly PanAt[]): PanPoint[] {
  return stops.flatMap((stop, i): PanPoint[] => {
    const next = stops[i + 1]
    const steps = next ? Math.max(1, Math.ceil(Math.abs(next.to - stop.to) / STEP)) : 1
    return Array.from({ length: steps }, (_, step) => {
      const share = step / steps
      const to = next ? stop.to + (next.to - stop.to) * share : stop.to
      return { at: next ? Math.round(stop.at + (next.at - stop.at) * share) : stop.at, ...earsAt(to) }
    })
  })
}
