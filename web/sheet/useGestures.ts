import { useRef, type PointerEvent, type RefObject } from 'react'
import { firstWhere } from '../../core/search'
import type { Frames, Stretch } from '../../core/time'
import { gestureOf, type Gesture, type Point } from './gestures'
import { edgeNear, gripNear, markNear, POINT_REACH } from './near'
import type { Hit } from './paint/places'
import type { SheetProps } from './props'
import type { SheetSurface } from './surface'

const AGAIN_MS = 420
/** Nearer to where it was pressed, nothing was moved, in pixels; and another tap is at the same place. */
const STILL = 4
const SAME_PLACE = 8
const NICK_REACH = 9
/** So near to the upper or lower edge of the view it scrolls along. */
const EDGE = 24
const SCROLL = 12

export const local = (event: { clientX: number; clientY: number }, element: HTMLElement): Point => {
  const box = element.getBoundingClientRect()
  return { x: event.clientX - box.left, y: event.clientY - box.top }
}

/** What a pointer does on a Sheet: see `gestures.ts`; and what is chosen by a click, by two and by three. */
export function useGestures(surface: SheetSurface | null, scroller: RefObject<HTMLDivElement | null>, props: SheetProps) {
  const { model, place, onSelect, onBegin, onUnchoose, onPlace, onNick, onMoveMark, onMovePoint } = props
  const latest = useRef(props)
  latest.current = props
  const held = useRef<{ gesture: Gesture; at: Point; moved: boolean; more: boolean; atEdge: boolean } | null>(null)
  /** Pointers do not count their taps as mice count clicks. */
  const taps = useRef({ count: 0, time: 0, at: { x: 0, y: 0 } })

  const wordStretch = (hit: Hit): Stretch => {
    const word = model.words[hit.word]
    return word ? { from: word.at, to: word.end } : { from: hit.frame, to: hit.frame }
  }
  /** A pause is chosen like a word: from where one ends to where the next begins. */
  const pauseAt = (frame: Frames): Stretch => {
    const next = firstWhere(model.words.length, (i) => model.words[i].at > frame)
    return { from: model.words[next - 1]?.end ?? 0, to: model.words[next]?.at ?? model.length }
  }
  const phrase = (index: number): Stretch => {
    let first = index
    let last = index
    while (first > 0 && !model.words[first - 1].phraseEnd) first--
    while (last < model.words.length - 1 && !model.words[last].phraseEnd) last++
    return { from: model.words[first].at, to: model.words[last].end }
  }

  /** As far as where it was pressed, from what is selected or from the playhead. */
  const reachTo = (hit: Hit) => {
    const other = model.selection ?? { from: place(), to: place() }
    const at = hit.on === 'words' ? wordStretch(hit) : { from: hit.frame, to: hit.frame }
    onSelect({ from: Math.min(other.from, at.from), to: Math.max(at.to, at.from < other.from ? other.to : at.to) })
  }

  const onPointerDown = (event: PointerEvent<HTMLDivElement>) => {
    if (!surface) return
    const element = scroller.current!
    const at = local(event, element)
    const hit = surface.hit(at.x, at.y)
    // a right click means what is selected, or where it is
    if (event.button === 2 && (!model.selection || hit.frame < model.selection.from || hit.frame >= model.selection.to)) onPlace(hit.frame)
    if (event.button !== 0 || at.x > element.clientWidth) return
    element.focus({ preventScroll: true })
    if (event.pointerType !== 'touch') event.currentTarget.setPointerCapture(event.pointerId)
    if (event.shiftKey) return reachTo(hit)
    const more = event.ctrlKey || event.metaKey
    const near = { surface, model, place }
    const gesture = gestureOf({
      ...near,
      acts: () => latest.current,
      at,
      frame: hit.frame,
      onWords: hit.on === 'words',
      alt: event.altKey,
      more,
    })
    if (gesture.atOnce) event.currentTarget.setPointerCapture(event.pointerId)
    held.current = { gesture, at, moved: false, more, atEdge: edgeNear(near, at) !== undefined }
  }

  const cursorAt = (at: Point): string => {
    if (!surface) return 'text'
    const near = { surface, model, place }
    if (gripNear(near, at)) return 'grab'
    if (onMovePoint && surface.pointNear(at.x, at.y, POINT_REACH)) return 'move'
    return edgeNear(near, at) || (onMoveMark && markNear(near, at)) ? 'ew-resize' : 'text'
  }

  const onPointerMove = (event: PointerEvent<HTMLDivElement>) => {
    const element = scroller.current!
    const at = local(event, element)
    const now = held.current
    if (!now) return void (element.style.cursor = cursorAt(at))
    if (!now.moved) {
      if (Math.hypot(at.x - now.at.x, at.y - now.at.y) < STILL) return
      if (event.pointerType === 'touch') event.currentTarget.setPointerCapture(event.pointerId)
      now.gesture.begin?.()
      now.moved = true
    }
    if (now.gesture.scrolls) {
      if (at.y < EDGE) surface!.scrollBy(-SCROLL)
      if (at.y > element.clientHeight - EDGE) surface!.scrollBy(SCROLL)
    }
    now.gesture.move(at)
  }

  const onPointerUp = (event: PointerEvent<HTMLDivElement>) => {
    const now = held.current
    held.current = null
    if (!now || !surface) return
    const at = local(event, scroller.current!)
    if (now.moved) return now.gesture.drop(at)
    now.gesture.leave?.()
    if (!now.gesture.atOnce) clicked(surface.hit(at.x, at.y), at, event.timeStamp, now.more, now.atEdge)
  }

  const clicked = (hit: Hit, at: Point, time: number, more: boolean, atEdge: boolean) => {
    const again = time - taps.current.time < AGAIN_MS && Math.hypot(taps.current.at.x - at.x, taps.current.at.y - at.y) < SAME_PLACE
    const count = again ? taps.current.count + 1 : 1
    taps.current = { count, time, at }
    const choose = (stretch: Stretch) => {
      onBegin(more)
      onSelect(stretch)
    }
    const nick =
      onNick &&
      model.nicks.find((one) => {
        const there = surface!.placeOf(one.at)
        return there.line === hit.line && Math.abs(there.x - at.x) < NICK_REACH
      })
    if (nick) onNick(nick.at)
    else if (more && hit.on !== 'margin') {
      if (!onUnchoose(hit.frame)) choose(hit.word >= 0 ? wordStretch(hit) : pauseAt(hit.frame))
    } else if (count === 2 && hit.word >= 0) choose(wordStretch(hit))
    else if (count === 2 && hit.on === 'words') choose(pauseAt(hit.frame))
    else if (count >= 3 && hit.word >= 0) choose(phrase(hit.word))
    else if (!atEdge) onPlace(hit.on === 'margin' ? surface!.layout.lines[hit.line].from : hit.frame)
  }

  const onPointerCancel = () => {
    held.current?.gesture.leave?.()
    held.current = null
  }
  return { onPointerDown, onPointerMove, onPointerUp, onPointerCancel }
}
