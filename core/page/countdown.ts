import type { Frames } from '../time'
import { BLOCK_KINDS } from './story'
import type { Layout, Placed } from './timing'

/** What whoever reads a page live must know of its time. */

/** A block that is still to come, and how long it is until then. */
export interface Ahead {
  row: Placed
  in: Frames
}

export interface Countdown {
  /** The block whose words run, and how much of them is left; null between two that leave a gap, and after the last. */
  now: { row: Placed; left: Frames } | null
  /** The next line that is read, and the next tape. */
  line: Ahead | null
  tape: Ahead | null
  /** Until all is over. */
  end: Frames
}

export function countdown({ placed, length }: Layout, place: Frames): Countdown {
  // where one begins before the one before it has ended, the later one runs
  const row = placed.findLast(({ at, words }) => place >= at && place < at + words)
  const next = (read: boolean): Ahead | null => {
    const found = placed.find(({ block, at }) => at > place && BLOCK_KINDS[block.kind].written === read)
    return found ? { row: found, in: found.at - place } : null
  }
  return {
    now: row ? { row, left: row.at + row.words - place } : null,
    line: next(true),
    tape: next(false),
    end: Math.max(0, length - place),
  }
}

/** When a block must begin for the page to end with its slot, in frames after the slot begins; below 0 where it is too long for that. */
export const backtimeOf = ({ at }: Pick<Placed, 'at'>, { length }: Pick<Layout, 'length'>, slot: Frames): Frames => slot - (length - at)
