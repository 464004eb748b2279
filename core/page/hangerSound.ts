import type { EditList } from '../edits/editList'
import type { Frames, Stretch } from '../time'
import { goingBack, lengthToEnd } from './goingBack'
import { goingOn, SHORTEST_TO_GO_ON } from './goingOn'
import type { Hanger } from './story'

/** What a hanger plays of a tape, at least `wanted` frames of it where it can be made as long. */
export function soundOfTape({ goesOn, back, by }: Hanger, plays: Extract<Hanger['plays'], { tape: string }>, wanted: Frames): EditList {
  if (goesOn) return goingOn(plays.tape, plays, wanted)
  if (back && lies(back, plays)) return goingBack(plays.tape, plays, back, wanted, by === 'end')
  return [{ ...plays, sound: 'tape' }]
}

/** Whether it comes to where it goes back from: another stretch of the tape may be played by now. */
const lies = (back: Stretch, { from, to }: Stretch): boolean => back.to > from && back.to <= to

/** How long a hanger's sound is where `wanted` frames are asked for. `length`: of its piece, or its stretch of tape, as it is. */
export function lengthFor({ plays, goesOn, back, by }: Hanger, length: Frames, wanted: Frames): Frames {
  if (wanted <= length || 'piece' in plays) return length
  if (goesOn) return length >= SHORTEST_TO_GO_ON ? wanted : length
  if (back && lies(back, plays)) return by === 'end' ? lengthToEnd(plays, back, wanted) : wanted
  return length
}
