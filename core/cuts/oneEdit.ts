import { edits, runsOn, type EditList } from '../edits/editList'
import { milliseconds, type Frames, type Stretch } from '../time'

/** Where no words are known, two cuts this near to each other are one. */
const NEAR: Frames = milliseconds(150)

/**
 * A stretch that is to be taken out, with the edits beside it between which and it nothing is said: what would
 * be left there is a scrap of room, and two cuts would stand where a person means one. `said` are the words of the piece.
 */
export function withEditsBeside(spans: EditList, { from, to }: Stretch, said: readonly { at: Frames; end: Frames }[]): Stretch {
  const silent = (a: Frames, b: Frames) => (said.length ? !said.some(({ at, end }) => at + end > 2 * a && at + end < 2 * b) : b - a <= NEAR)
  const all = edits(spans).filter(({ left, right }) => !runsOn(left, right))
  const before = all.filter(({ at, room }) => at + room <= from).at(-1)
  const after = all.find(({ at }) => at >= to)
  return {
    from: before && silent(before.at + before.room, from) ? before.at : from,
    to: after && silent(to, after.at) ? after.at + after.room : to,
  }
}
