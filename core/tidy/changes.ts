import { toFrames, type Frames, type Stretch } from '../time'
import type { Proposal } from '../tape/suggestion'
import { turned } from './dip'
import { isPause } from './outlook'
import { partOf } from './pauses'

/** What a person does at a place instead of what was proposed: leave a pause another length, turn it down, mute it. */

/** What one step of a key changes. */
const STEP: Frames = toFrames(0.05)
const STEP_DB = 1.5
/** What would go out is turned down by this first, in dB. */
const DOWN = -9

interface Proposed extends Stretch {
  proposes: Proposal
}

/** How long a pause is left, in frames; null where something else is proposed. */
export const leftOf = (place: Proposed): Frames | null =>
  'goes' in place.proposes && isPause(place) ? place.to - place.from - (place.proposes.goes.to - place.proposes.goes.from) : null

/** A pause that is left so long, which is at least a twentieth of a second and at most what it is. */
export function leaving({ from, to, proposes }: Proposed, left: Frames): Proposal {
  const kept = Math.max(STEP, Math.min(left, to - from - 1))
  const goes = partOf({ from, to }, kept)
  return proposes.do === 'hold' ? { do: 'hold', goes } : { do: 'takeOut', goes, room: 0 }
}

/** By what a place is turned up or down, in dB; null where something else is proposed. */
export function levelOf({ proposes }: Pick<Proposed, 'proposes'>): number | null {
  if (proposes.do !== 'level') return null
  return proposes.points.reduce((most, { dB }) => (Math.abs(dB) > Math.abs(most) ? dB : most), 0)
}

export const turnedBy = ({ from, to }: Stretch, dB: number): Proposal => ({ do: 'level', points: turned({ from, to }, dB) })

/** Shorter or longer by a step. Null where no pause is proposed to be shortened. */
export function longer(place: Proposed, by: 1 | -1): Proposal | null {
  const left = leftOf(place)
  return left === null ? null : leaving(place, left + by * STEP)
}

/** Softer or louder by a step; what would go out is turned down instead. */
export function louder(place: Proposed, by: 1 | -1): Proposal {
  const now = levelOf(place)
  return turnedBy(place, now === null ? DOWN : now + by * STEP_DB)
}
