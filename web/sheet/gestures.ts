import type { LevelPoint } from '../../core/sound/level'
import type { Frames } from '../../core/time'
import { edgeNear, gripNear, markNear, POINT_REACH, type Near } from './near'
import type { SheetProps } from './props'

/** What a hand can do on a Sheet by pressing, moving and letting go. The first that fits where it pressed is what it does. */

export interface Point {
  x: number
  y: number
}

type Acts = Pick<SheetProps, 'onSelect' | 'onBegin' | 'onScrub' | 'onMoveMark' | 'onMovePoint'>

/** Where and how a hand pressed. */
export interface Press extends Near {
  /** What it leads to, as it is at that moment. */
  acts: () => Acts
  at: Point
  frame: Frames
  /** On the words rather than on the sound. */
  onWords: boolean
  alt: boolean
  /** What is selected is to be one more. */
  more: boolean
}

export interface Gesture {
  /** It holds the pointer from the press on, without waiting to be moved. */
  atOnce?: boolean
  /** It goes on past the edge of the view, which scrolls along. */
  scrolls: boolean
  /** Once, when it has moved far enough to be meant. */
  begin?(): void
  move(at: Point): void
  /** Let go after it was moved. */
  drop(at: Point): void
  /** Called off, or let go where nothing was moved. */
  leave?(): void
}

const NOTHING = () => undefined

/** The playhead drawn along, by its grip or from anywhere with a key held. */
function scrub({ surface, place, model, at, frame, alt, acts }: Press): Gesture | null {
  if (!alt && !gripNear({ surface, model, place }, at)) return null
  if (alt) acts().onScrub(frame)
  return {
    atOnce: true,
    scrolls: true,
    move: ({ x, y }) => acts().onScrub(surface.hit(x, y).frame),
    drop: () => acts().onScrub(null),
    leave: () => acts().onScrub(null),
  }
}

function moveMark({ surface, model, place, at, acts }: Press): Gesture | null {
  const mark = acts().onMoveMark && markNear({ surface, model, place }, at)
  return mark ? { scrolls: false, move: NOTHING, drop: ({ x, y }) => acts().onMoveMark?.(mark, surface.hit(x, y).frame) } : null
}

/** Held to the level as recorded where it is near to it, in dB. */
const NEAR_LEVEL = 0.8

function movePoint({ surface, at, acts }: Press): Gesture | null {
  const point = acts().onMovePoint && surface.pointNear(at.x, at.y, POINT_REACH)?.at
  if (point === undefined) return null
  /** Where it comes to lie, on the line that it stands on. */
  const to = ({ x, y }: Point): LevelPoint => {
    const dB = surface.levelAt(y, surface.placeOf(point).line)
    return { at: surface.hit(x, y).frame, dB: Math.abs(dB) < NEAR_LEVEL ? 0 : dB }
  }
  return {
    scrolls: false,
    move(now) {
      surface.dragged = { at: point, to: to(now) }
      surface.paintSoon()
    },
    drop() {
      const { dragged } = surface
      surface.dragged = null
      if (dragged) acts().onMovePoint?.(dragged.at, dragged.to)
    },
    leave: () => void (surface.dragged = null),
  }
}

/** An edge of what is selected, to another place. */
function moveEdge(press: Press): Gesture | null {
  const edge = edgeNear(press, press.at)
  if (!edge) return null
  const held = press.model.selection![edge === 'from' ? 'to' : 'from']
  return { scrolls: true, move: ({ x, y }) => selectTo(press, held, press.surface.hit(x, y).frame), drop: NOTHING }
}

/** From where it pressed as far as it goes: by words on the words, by time on the sound. */
function select(press: Press): Gesture {
  const { surface, model, frame, onWords, more, acts } = press
  return {
    scrolls: true,
    begin: () => acts().onBegin(more),
    move({ x, y }) {
      const here = surface.hit(x, y).frame
      const [from, to] = [Math.min(frame, here), Math.max(frame, here)]
      const [first, last] = onWords ? [surface.wordAt(from), surface.wordAt(to)] : [-1, -1]
      selectTo(press, first >= 0 ? model.words[first].at : from, last >= 0 ? model.words[last].end : to)
    },
    drop: NOTHING,
  }
}

function selectTo({ acts }: Press, a: Frames, b: Frames): void {
  const [from, to] = [Math.min(a, b), Math.max(a, b)]
  if (to > from) acts().onSelect({ from, to })
}

const GESTURES: readonly ((press: Press) => Gesture | null)[] = [scrub, moveMark, movePoint, moveEdge, select]

export function gestureOf(press: Press): Gesture {
  for (const gesture of GESTURES) {
    const found = gesture(press)
    if (found) return found
  }
  throw new Error('whoever presses selects')
}
