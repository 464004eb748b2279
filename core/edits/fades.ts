import { clamp, milliseconds, type Frames } from '../time'
import { clipLength, type Actuality, type ActualityStep, type EndFade } from './actuality'
import { setEdges } from './acts'
import { cuts, DEFAULT_FADE, isRoom, joinAt, runsOn, spanLength, withoutJoin, type Cut, type Edit, type Join } from './editList'

/** Fades: across joins, and at the ends of a piece. */

type Piece = Pick<Actuality, 'spans' | 'head' | 'tail'>
type FramesOf = (tape: string) => Frames

/** Fades at the very ends of a piece are never shorter than this, so that they leave no click. */
export const SHORTEST_END = milliseconds(5)
const LONGEST: Frames = milliseconds(1000)
/** A crossfade shorter than this is left out. */
const SHORTEST: Frames = milliseconds(1)

/** How long the crossfade at a cut can be: it reaches over half a span on either side, and no further than there is tape. */
export function longestFade({ left, right }: Pick<Cut, 'left' | 'right'>, framesOf: FramesOf): Frames {
  const beyondLeft = isRoom(left) ? Infinity : framesOf(left.tape) - left.to
  const beyondRight = isRoom(right) ? Infinity : right.from
  return 2 * Math.max(0, Math.min(spanLength(left) >> 1, spanLength(right) >> 1, beyondLeft, beyondRight))
}

/** The fades at the ends of a piece: as they are set, else as long as its handles. */
export const endFades = ({
  head,
  tail,
  fadeIn,
  fadeOut,
}: Pick<Actuality, 'head' | 'tail' | 'fadeIn' | 'fadeOut'>): { in: EndFade; out: EndFade } => ({
  in: fadeIn ?? { length: Math.max(head, SHORTEST_END), shape: 'gain' },
  out: fadeOut ?? { length: Math.max(tail, SHORTEST_END), shape: 'gain' },
})

export type CrossFade = Pick<Join, 'fade' | 'shape'>

/** Steps that give a join another crossfade, as long as it can be there. Empty if it has that crossfade already. */
export function setFade(cut: Cut, { fade, shape }: CrossFade, framesOf: FramesOf): ActualityStep[] {
  const length = clamp(Math.round(fade), 0, Math.min(LONGEST, longestFade(cut, framesOf)))
  const { join } = cut
  return length === join.fade && shape === join.shape
    ? []
    : [{ type: 'join', at: cut.at, join: { ...join, fade: length, shape, heard: false } }]
}

/** Fades that were set at once. */
export interface FadesSet {
  steps: ActualityStep[]
  /** How many crossfades were shortened to fit, and how many left out. */
  shortened: number
  left: number
}

/**
 * The same crossfade at many cuts. Where it does not fit it is shortened, or left as it is; a split that nothing was taken
 * out at has none.
 */
export function setFades(all: readonly Cut[], wanted: CrossFade, framesOf: FramesOf): FadesSet {
  const found: FadesSet = { steps: [], shortened: 0, left: 0 }
  for (const cut of all) {
    const room = longestFade(cut, framesOf)
    if (runsOn(cut.left, cut.right) || room < Math.min(SHORTEST, wanted.fade)) {
      found.left++
      continue
    }
    if (room < wanted.fade) found.shortened++
    found.steps.push(...setFade(cut, wanted, framesOf))
  }
  return found
}

/** The crossfades of many cuts back to what a cut has by itself. */
export const plainFades = (all: readonly Cut[], framesOf: FramesOf): ActualityStep[] =>
  setFades(all, { fade: DEFAULT_FADE, shape: 'power' }, framesOf).steps

/** A fade at an end of a piece, no longer than the piece; null for one as long as its handle. */
export function setEndFade(piece: Actuality, end: 'fadeIn' | 'fadeOut', fade: EndFade | null): ActualityStep[] {
  const value = fade ? { length: clamp(Math.round(fade.length), SHORTEST_END, clipLength(piece)), shape: fade.shape } : undefined
  const now = piece[end]
  return value?.length === now?.length && value?.shape === now?.shape ? [] : [{ type: 'set', key: end, value }]
}

/**
 * Has two sides of a cut overlap by more, or by less: what comes begins sooner, while what goes is
 * still heard, and the crossfade lies over both. Nothing is lost of either; the piece gets shorter.
 */
export function overlap(piece: Piece, edit: Edit, by: Frames): ActualityStep[] {
  const { left, right, join } = edit
  const half = clamp(
    Math.trunc(by / 2),
    -Math.floor(join.fade / 2),
    Math.max(0, Math.min(Math.floor((Math.min(spanLength(left), spanLength(right)) - join.fade) / 3), (LONGEST - join.fade) >> 1)),
  )
  if (half === 0) return []
  const fresh: Join = { ...join, fade: join.fade + 2 * half, heard: false }
  // further apart, what lay under the fade is heard by itself again
  return setEdges(piece, edit, { left: left.to - half, right: Math.max(0, right.from + half) }, fresh, edit.room)
}

/** Takes a split out of a piece at a place where its sound runs on, so that two parts are one again. */
export function unsplit({ spans }: Pick<Piece, 'spans'>, at: Frames): ActualityStep[] {
  const cut = cuts(spans).find((one) => one.at === at)
  if (!cut || !runsOn(cut.left, cut.right)) return []
  const end = at + spanLength(cut.right)
  return [{ type: 'replace', from: at, to: end, insert: [withoutJoin(cut.right)], after: joinAt(spans, end) }]
}
