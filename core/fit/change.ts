import type { Frames, Stretch } from '../time'

/** A single thing that makes a page shorter or longer, and how much harm it does. */

/**
 * What may be done to bring a page to its slot, the least harm first. No later one is used while an earlier one would do. A
 * reporter's own words give way before a guest's; a guest's pauses are the last to go, and one that may be the story never goes.
 */
export const RANKS = [
  /** Pauses between blocks, and in the reporter's own lines: nobody misses them. */
  'room',
  /** Fillers in the reporter's own lines. */
  'ownFillers',
  /** Blocks begin a moment earlier, over the handle of the one before. */
  'overlap',
  /** Natural sound stands by itself for less, or for longer. */
  'sound',
  /** Copy that is not recorded yet is read a little faster or slower, within what a reader does. */
  'pace',
  /** A sentence of copy that says what the tape beside it says. */
  'saidTwice',
  /** A sentence at the edge of an actuality, whole. */
  'sentence',
  /** A guest's fillers. */
  'fillers',
  /** A guest's pauses, shortened. */
  'pauses',
] as const
export type Rank = (typeof RANKS)[number]

/** How much harm a second of each does: each rank four times that of the one before. */
export const HARM: Readonly<Record<Rank, number>> = Object.fromEntries(RANKS.map((rank, i) => [rank, 4 ** i])) as Record<Rank, number>

export type Deed =
  /** Stretches of the block's piece go. */
  | { do: 'cut'; cuts: readonly Stretch[] }
  /** The block's piece goes on for so much longer on its tape. */
  | { do: 'longer'; by: Frames }
  /** The block begins so much later than it does, or sooner where it is below 0. */
  | { do: 'gap'; by: Frames }
  /** Copy is read in another time. */
  | { do: 'pace'; text: string; time: Frames }
  | { do: 'text'; text: string }

export interface Change {
  id: string
  block: string
  rank: Rank
  /** In words: `“you know”`, `4 pauses`. */
  what: string
  /** How much shorter the page is for it, in frames; below 0 where it is longer. */
  saves: Frames
  /** Any part of it can be done, to the frame. */
  partly: boolean
  deed: Deed
}

/** Harm of a change, or of as much of it as is done: figure without a unit, comparable within a page. */
export const harmOf = ({ rank, saves }: Pick<Change, 'rank' | 'saves'>): number => HARM[rank] * Math.abs(saves)

/** A change that does no more than `saves` frames of what it could. Throws RangeError where it cannot be done in part. */
export function part(change: Change, saves: Frames): Change {
  if (saves === change.saves) return change
  if (!change.partly || Math.abs(saves) > Math.abs(change.saves)) throw new RangeError('a change is done whole')
  const { deed } = change
  switch (deed.do) {
    case 'gap':
      return { ...change, saves, deed: { do: 'gap', by: -saves } }
    case 'longer':
      return { ...change, saves, deed: { do: 'longer', by: -saves } }
    case 'pace':
      return { ...change, saves, deed: { ...deed, time: deed.time + change.saves - saves } }
    case 'cut':
      return { ...change, saves, deed: { do: 'cut', cuts: parts(deed.cuts, saves) } }
    case 'text':
      throw new RangeError('a sentence goes whole')
  }
}

/** Of each stretch its share, from its middle, so many frames in all. */
function parts(cuts: readonly Stretch[], wanted: Frames): Stretch[] {
  const all = cuts.reduce((sum, { from, to }) => sum + to - from, 0)
  let [done, given] = [0, 0]
  return cuts
    .map(({ from, to }): Stretch => {
      done += to - from
      const length = Math.round((wanted * done) / all) - given
      given += length
      const start = from + ((to - from - length) >> 1)
      return { from: start, to: start + length }
    })
    .filter(({ from, to }) => to > from)
}
