import { milliseconds, type Frames, type Stretch } from '../time'
import { LOOK_STEP, SoundLooks } from '../align/bands'

/** One edge of a cut, with the sound around it. Places are frames of its tape. */
export interface Edge {
  /** One channel, from frame `start` of the tape on. */
  sound: Float32Array
  start: Frames
  /** Where a hand put it. */
  asked: Frames
  /** Where it may lie at all. */
  low: Frames
  high: Frames
  /**
   * On the side that is kept, the edge of the nearest word; on the other, that of the nearest word that goes. Null where
   * there is none near.
   */
  kept: Frames | null
  gone: Frames | null
  /** A breath in the pause there: it belongs to the word after it. */
  breath?: Stretch | null
}

/** How far around an edge sound is looked at. */
export const AROUND = milliseconds(900)
/** Without words an edge is looked for so near to where it was put. */
const NEAR = milliseconds(25)
/** An edge in a pause goes no further than this from the word that is kept. */
const PAUSE = milliseconds(700)
/** Words that run into each other leave this much on either side. */
const TIGHT = milliseconds(6)

/** The kept and gone words on either side of a stretch that is taken out. A word goes where more than half of it was chosen. */
export function wordsAtEdges(
  words: readonly Stretch[],
  { from, to }: Stretch,
): { left: Pick<Edge, 'kept' | 'gone'>; right: Pick<Edge, 'kept' | 'gone'> } {
  const goes = (word: Stretch) => 2 * (Math.min(word.to, to) - Math.max(word.from, from)) > word.to - word.from
  const gone = words.filter(goes)
  const middle = (word: Stretch) => word.from + word.to
  const edge = gone.length ? { from: gone[0].from, to: gone[gone.length - 1].to } : { from, to }
  const before = words.filter((word) => !goes(word) && middle(word) <= edge.from + edge.to && word.from < edge.from)
  const after = words.filter((word) => !goes(word) && middle(word) > edge.from + edge.to && word.to > edge.to)
  return {
    left: { kept: before.length ? Math.max(...before.map((word) => word.to)) : null, gone: gone.length ? edge.from : null },
    right: { kept: after.length ? Math.min(...after.map((word) => word.from)) : null, gone: gone.length ? edge.to : null },
  }
}

/** Where an edge may be put: between the word that is kept and the one that goes, else near to where it was asked for. */
export function reachOf({ asked, low, high, kept, gone, breath }: Edge, side: 'left' | 'right'): Stretch {
  // seen as a left edge, on which the kept word lies before
  const turn = side === 'left' ? 1 : -1
  const at = (frame: Frames) => frame * turn
  const near = (frame: Frames | null) => frame !== null && Math.abs(frame - asked) < AROUND
  let first = near(kept) ? at(kept!) : at(asked) - NEAR
  let last = near(gone) ? at(gone!) : near(kept) ? Math.max(at(asked) + NEAR, at(kept!)) : at(asked) + NEAR
  if (near(kept)) last = Math.min(last, first + PAUSE)
  else if (near(gone)) first = Math.max(at(asked) - NEAR, last - PAUSE)
  // on both sides the edge lies before it: it goes with what goes, and stays with what stays
  if (breath && turn > 0) last = Math.max(first, Math.min(last, breath.from))
  if (breath && turn < 0) first = Math.min(last, Math.max(first, -breath.from))
  if (last - first < 2 * TIGHT && !breath) [first, last] = [(first + last) / 2 - TIGHT, (first + last) / 2 + TIGHT]
  const [a, b] = turn > 0 ? [first, last] : [-last, -first]
  return { from: Math.min(high, Math.max(low, Math.round(a))), to: Math.max(low, Math.min(high, Math.round(b))) }
}

const OVER_ROOM = 9
const SHORTEST = milliseconds(40)
const BRIDGED = milliseconds(60)

/** Where there is speech, by its level above the room: what is protected where nobody has written words down. */
export function speechIn(sound: Float32Array, start: Frames): Stretch[] {
  const { level, count } = new SoundLooks(sound)
  const room = level.slice().sort()[Math.floor(count / 10)] ?? 0
  const runs: Stretch[] = []
  for (let i = 0; i < count; i++) {
    if (level[i] < room + OVER_ROOM) continue
    const last = runs[runs.length - 1]
    const at = start + i * LOOK_STEP
    if (last && at - last.to <= BRIDGED) last.to = at + LOOK_STEP
    else runs.push({ from: at, to: at + LOOK_STEP })
  }
  return runs.filter(({ from, to }) => to - from >= SHORTEST)
}
