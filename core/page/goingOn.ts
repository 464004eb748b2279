import type { EditList, Join, Span } from '../edits/editList'
import { scramble } from '../sound/random'
import { toFrames, type Frames, type Stretch } from '../time'

/**
 * Ambience made longer: parts of the stretch follow one another in long crossfades of equal power, each from another place of
 * it, so that nothing comes round again as a loop does.
 */

const LONGEST_FADE: Frames = toFrames(3)
/** A stretch shorter than this is not made longer: it would be heard. */
export const SHORTEST_TO_GO_ON: Frames = toFrames(2)

/** A tape's stretch, as long as is wanted; the stretch alone where it is long enough, or too short to go on. */
export function goingOn(tape: string, { from, to }: Stretch, wanted: Frames): EditList {
  const length = to - from
  if (wanted <= length || length < SHORTEST_TO_GO_ON) return [{ tape, from, to, sound: 'tape' }]
  const fade = Math.min(LONGEST_FADE, Math.floor(length / 4))
  const half = Math.ceil(fade / 2)
  const join: Join = { fade, shape: 'power', origin: 'hand', heard: true }
  const spans: Span[] = [{ tape, from, to: to - half, sound: 'tape' }]
  let sum = length - half
  for (let i = 0; sum < wanted; i++) {
    // the first half of the stretch, so that each part is at least half of it
    const start = from + half + (scramble(tape, i) % Math.max(1, Math.floor(length / 2) - fade))
    const end = Math.min(to - half, start + wanted - sum)
    // a last part that is shorter than its crossfade would be all fade
    spans.push({ tape, from: start, to: Math.max(end, start + fade), sound: 'tape', join })
    sum += Math.max(end, start + fade) - start
  }
  return spans
}
