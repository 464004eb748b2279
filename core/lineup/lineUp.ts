import { RATE } from '../time'
import { changesOf } from './changes'
import { exactly } from './exactly'
import { roughly } from './roughly'
import { NARROW, type Source } from './source'

/** How the second of two recordings lies on the first's clock: its frame `f` sounds at `offset + f * (1 + drift)` of the first. */
export interface Onto {
  /** Frames of the first, with a part of one. */
  offset: number
  /** Parts of one: 60e-6 where the second's clock ran 60 ppm slow. */
  drift: number
}

export type LineUp =
  | {
      belongs: true
      onto: Onto
      /** Places compared, and those that agree. */ compared: number
      agree: number
      /** How closely, in seconds. */ spread: number
    }
  | { belongs: false; reason: string }

/** So far to either side of the rough line it is looked exactly, in seconds: far enough that by chance hardly anything agrees. */
const REACH = 0.15
/** So many of the places compared must lie on one line: by chance it is one in ten. */
const LEAST_SHARE = 0.4
const LEAST_PLACES = 5

/** Finds where the second recording lies in the first, by their sound alone. */
export function lineUp(first: Source, second: Source, changes = { first: changesOf(first), second: changesOf(second) }): LineUp {
  const no = (reason: string): LineUp => ({ belongs: false, reason })
  if (Math.min(first.frames, second.frames) < 10 * RATE) return no('One of them is shorter than ten seconds: too little to go by.')
  const rough = roughly(changes.first, changes.second)
  if (!rough) return no('No stretch of the one is heard in the other.')
  const found = exactly(first, second, rough, REACH)
  if (!found) return no('They hardly lie side by side: there is nothing to compare.')
  const { offset, drift, compared, agree, oneStretch, spread } = found
  if (agree < LEAST_PLACES || agree < LEAST_SHARE * compared)
    return no(`Of ${compared} places only ${agree} agree on how they would lie: these were not recorded together.`)
  if (oneStretch) return no('They are alike in one stretch only: something was played in both, or said again.')
  return { belongs: true, onto: { offset: offset * NARROW, drift }, compared, agree, spread }
}
