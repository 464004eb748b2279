import type { EditList, Join, Span } from '../edits/editList'
import { milliseconds, type Frames, type Stretch } from '../time'
import type { Back } from './story'

/** Music made longer: where it comes to a place that sounds like an earlier one, it goes back there, as often as is needed. */

const FADE: Frames = milliseconds(80)

const joinOf = ({ same }: Back): Join => ({ fade: FADE, shape: same ? 'gain' : 'power', origin: 'hand', heard: true })

/** How long music is that goes back as often as it must to be as long as is wanted, and then plays to its own end. */
export function lengthToEnd({ from, to }: Stretch, back: Back, wanted: Frames): Frames {
  const length = to - from
  return length + Math.max(0, Math.ceil((wanted - length) / (back.to - back.from))) * (back.to - back.from)
}

/**
 * A stretch of a tape, at least as long as is wanted; alone where it is long enough. `toEnd`: it plays to its own end at last, and
 * is {@link lengthToEnd} long; otherwise it goes on going back, so that what is heard at a place never goes by how long it is.
 */
export function goingBack(tape: string, { from, to }: Stretch, back: Back, wanted: Frames, toEnd: boolean): EditList {
  if (wanted <= to - from) return [{ tape, from, to, sound: 'tape' }]
  const round: Span = { tape, from: back.from, to: back.to, sound: 'tape', join: joinOf(back) }
  const all = toEnd ? lengthToEnd({ from, to }, back, wanted) : wanted
  const spans: Span[] = [{ tape, from, to: back.to, sound: 'tape' }]
  let sum = back.to - from
  const last = toEnd ? to - back.from : 0
  while (sum + last < all) {
    spans.push(round)
    sum += back.to - back.from
  }
  return toEnd ? [...spans, { ...round, to }] : spans
}
