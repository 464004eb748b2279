import type { Frames } from '../time'
import { quarterSine } from './elementary'

/**
 * Shapes of fades and crossfades. `power` keeps the power of unlike sounds even through a
 * crossfade, `gain` the amplitude of like ones.
 */
export type FadeShape = 'power' | 'gain'

/** Music fades in and out so as well: `ear` sinks early and lingers, which is even to the ear. */
export type EndShape = FadeShape | 'ear'

/** A fade on a strip: silent before a rise, full after it; a fall is the other way round. */
export interface Ramp {
  at: Frames
  length: Frames
  rise: boolean
  shape: EndShape
}

/** The factor at `t` (0 to 1) of a rise; a fall at `t` is the rise at `1 - t`. */
export function rise(shape: EndShape, t: number): number {
  if (t <= 0) return 0
  if (t >= 1) return 1
  if (shape === 'gain') return t
  if (shape === 'ear') return t * t * t
  return quarterSine(t)
}
