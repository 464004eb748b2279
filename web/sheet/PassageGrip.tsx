import { useImperativeHandle, useLayoutEffect, useRef, useState, type PointerEvent, type Ref } from 'react'
import { GripVertical } from 'lucide-react'
import type { Frames, Stretch } from '../../core/time'
import type { SheetModel } from './paint/model'
import type { SheetSurface } from './surface'

/** Draws nearer than this to the edge of the view scroll it, in pixels, by so much. */
const EDGE = { near: 24, by: 12 }

/** What is selected is taken by this, drawn along, and let go where it is to stand. */
export function PassageGrip({
  ref,
  surface,
  model,
  selection,
  element,
  onDrop,
}: {
  /** To be called whenever the Sheet was painted. */
  ref: Ref<() => void>
  surface: SheetSurface
  model: SheetModel
  selection: Stretch
  /** What the Sheet scrolls in. */
  element: () => HTMLElement
  onDrop: (place: Frames) => void
}) {
  const grip = useRef<HTMLButtonElement>(null)
  const caret = useRef<HTMLDivElement>(null)
  const [to, setTo] = useState<Frames | null>(null)

  const place = () => {
    if (!grip.current || !surface.layout.lines.length) return
    const { x, y } = surface.placeOf(selection.from)
    grip.current.style.transform = `translate(${x - 10}px, ${y - 20}px)`
    if (!caret.current || to === null) return
    const at = surface.placeOf(to)
    caret.current.style.transform = `translate(${at.x - 2}px, ${at.y - 8}px)`
    caret.current.style.height = `${surface.look.waveHeight + 46}px`
  }
  useImperativeHandle(ref, () => place)
  // what is drawn moves although the Sheet is not painted anew
  useLayoutEffect(place)

  /** The nearest place between two words. */
  const between = (event: PointerEvent): Frames => {
    const box = element().getBoundingClientRect()
    const [x, y] = [event.clientX - box.left, event.clientY - box.top]
    if (y < EDGE.near) surface.scrollBy(-EDGE.by)
    if (y > box.height - EDGE.near) surface.scrollBy(EDGE.by)
    const { frame } = surface.hit(x, y)
    if (!model.words.length) return frame
    return [...model.words.map((word) => word.at), model.length].reduce((best, at) =>
      Math.abs(at - frame) < Math.abs(best - frame) ? at : best,
    )
  }
  return (
    <>
      <button
        ref={grip}
        type="button"
        aria-label="Draw what is selected to where it is to stand"
        className="absolute top-0 left-0 z-10 flex h-[18px] cursor-grab touch-none items-center rounded-sm bg-tape px-0.5 text-paper"
        onPointerDown={(event) => {
          event.stopPropagation()
          event.currentTarget.setPointerCapture(event.pointerId)
          setTo(selection.from)
        }}
        onPointerMove={(event) => to !== null && setTo(between(event))}
        onPointerUp={() => {
          if (to !== null && (to < selection.from || to > selection.to)) onDrop(to)
          setTo(null)
        }}
        onPointerCancel={() => setTo(null)}
      >
        <GripVertical size={14} />
      </button>
      {to !== null && (
        <div ref={caret} className="pointer-events-none absolute top-0 left-0 z-10 w-[4px] rounded-full bg-tape" data-testid="drop-place" />
      )}
    </>
  )
}
