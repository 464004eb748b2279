import type { Proposal } from '../tape/suggestion'
import { firstWordAfter, type Word } from '../tape/words'
import { toFrames, type Frames, type Stretch } from '../time'
import { leaving } from './changes'
import { isPause } from './outlook'

/** What a person wants otherwise than was proposed for all places of a kind. */
export interface Margins {
  /** So much more of the sound is left at either edge of what goes; below 0, so much more goes. */
  edge: Frames
  /** A pause is left so long; null: as was proposed. */
  left: Frames | null
}

export const NO_MARGINS: Margins = { edge: 0, left: null }
export const MARGIN_STEP: Frames = toFrames(0.005)
export const MOST_MARGIN: Frames = toFrames(0.2)
/** What goes is never shorter. */
const SHORTEST: Frames = toFrames(0.02)

interface Proposed extends Stretch {
  proposes: Proposal
}

/** What goes, with so much more left at its edges; where more is to go, it stays within `within`. Null where too little would go. */
export function withEdges(goes: Stretch, edge: Frames, within: Stretch): Stretch | null {
  if (edge >= 0) {
    const left = { from: goes.from + edge, to: goes.to - edge }
    return left.to - left.from < SHORTEST ? null : left
  }
  // what was proposed is never made less by where it may not go further
  return {
    from: Math.min(goes.from, Math.max(within.from, goes.from + edge)),
    to: Math.max(goes.to, Math.min(within.to, goes.to - edge)),
  }
}

/** What a place proposes with margins; null where it is too short for them, and stays as it was proposed. */
export function withMargins(place: Proposed, { edge, left }: Margins, words: readonly Word[]): Proposal | null {
  const { proposes } = place
  if (!('goes' in proposes)) return proposes
  const pause = isPause(place)
  const wanted = pause && left !== null ? leaving(place, left) : proposes
  if (!edge || !('goes' in wanted)) return wanted
  const goes = withEdges(wanted.goes, edge, reachOf(place, words))
  return goes && { ...wanted, goes }
}

/** How far an edge may go: a pause keeps something of itself on either side, all else ends before the words beside it. */
export const reachOf = (place: Proposed, words: readonly Word[]): Stretch =>
  isPause(place) ? { from: place.from + SHORTEST, to: place.to - SHORTEST } : silenceAround(place, words)

/** A stretch, and the silence on either side of it up to the next word. */
function silenceAround({ from, to }: Stretch, words: readonly Word[]): Stretch {
  const before = words[firstWordAfter(words, from) - 1]
  const after = words.slice(firstWordAfter(words, from)).find((word) => word.from >= to)
  return { from: Math.min(from, before?.to ?? from), to: Math.max(to, after?.from ?? to) }
}
