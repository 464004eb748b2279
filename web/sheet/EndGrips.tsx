import { useImperativeHandle, useLayoutEffect, useRef, useState, type PointerEvent, type Ref } from 'react'
import { RATE, type Frames } from '../../core/time'
import type { SheetModel } from './paint/model'
import type { SheetSurface } from './surface'

interface EndGripsProps {
  /** To be called whenever the Sheet was painted. */
  ref: Ref<() => void>
  surface: SheetSurface
  model: SheetModel
  /** What the Sheet scrolls in. */
  element: () => HTMLElement
  /** An end was let go at a place: before 0, or past the length, where it was drawn out. */
  onDrop: (end: 'head' | 'tail', to: Frames) => void
}

/** The two ends of a piece, to be drawn further in, or out again into the tape. */
export function EndGrips({ ref, surface, model, element, onDrop }: EndGripsProps) {
  const grips = { head: useRef<HTMLButtonElement>(null), tail: useRef<HTMLButtonElement>(null) }
  const caret = useRef<HTMLDivElement>(null)
  const [drawn, setDrawn] = useState<{ end: 'head' | 'tail'; to: Frames } | null>(null)

  const place = () => {
    if (!surface.layout.lines.length) return
    for (const end of ['head', 'tail'] as const) {
      const grip = grips[end].current
      if (!grip) continue
      const { x, y } = surface.placeOf(end === 'head' ? 0 : model.length, end === 'tail')
      grip.style.transform = `translate(${end === 'head' ? x - 12 : x}px, ${y}px)`
      grip.style.height = `${surface.look.waveHeight}px`
    }
    if (!caret.current || !drawn) return
    const at = surface.placeOf(Math.min(model.length, Math.max(0, drawn.to)), drawn.end === 'tail')
    caret.current.style.transform = `translate(${at.x - 2}px, ${at.y - 8}px)`
    caret.current.style.height = `${surface.look.waveHeight + 46}px`
  }
  useImperativeHandle(ref, () => place)
  // what is drawn moves although the Sheet is not painted anew
  useLayoutEffect(place)

  /** Within the piece the nearest edge of a word; beyond an end as much tape as the hand has gone past it. */
  const placeAt = (end: 'head' | 'tail', event: PointerEvent): Frames => {
    const box = element().getBoundingClientRect()
    const [x, y] = [event.clientX - box.left, event.clientY - box.top]
    const edge = surface.placeOf(end === 'head' ? 0 : model.length, end === 'tail')
    const perPixel = surface.look.framesPerLine / surface.lineWidth
    const onItsLine = Math.abs(y - edge.y - surface.look.waveHeight / 2) < surface.pitch * 0.75
    if (end === 'head' && onItsLine && x < edge.x) return Math.round((x - edge.x) * perPixel)
    if (end === 'tail' && onItsLine && x > edge.x) return Math.round(model.length + (x - edge.x) * perPixel)
    const { frame } = surface.hit(x, y)
    if (!model.words.length) return frame
    const edges = model.words.filter(({ look }) => look !== 'gone').map((word) => (end === 'head' ? word.at : word.end))
    return edges.reduce((best, at) => (Math.abs(at - frame) < Math.abs(best - frame) ? at : best), edges[0])
  }
  const further = drawn ? (drawn.end === 'head' ? -drawn.to : drawn.to - model.length) : 0
  return (
    <>
      {(['head', 'tail'] as const).map((end) => (
        <button
          key={end}
          ref={grips[end]}
          type="button"
          tabIndex={-1}
          aria-label={end === 'head' ? 'Draw the start in, or out into the tape' : 'Draw the end in, or out into the tape'}
          className="absolute top-0 left-0 z-10 flex w-3 cursor-ew-resize touch-none justify-center"
          onPointerDown={(event) => {
            event.stopPropagation()
            event.currentTarget.setPointerCapture(event.pointerId)
            setDrawn({ end, to: end === 'head' ? 0 : model.length })
          }}
          onPointerMove={(event) => drawn && setDrawn({ end, to: placeAt(end, event) })}
          onPointerUp={() => {
            if (drawn && drawn.to !== (end === 'head' ? 0 : model.length)) onDrop(end, drawn.to)
            setDrawn(null)
          }}
          onPointerCancel={() => setDrawn(null)}
        >
          <span className="h-full w-[4px] rounded-full bg-tape opacity-60 hover:opacity-100" />
        </button>
      ))}
      {drawn && (
        <div ref={caret} className="pointer-events-none absolute top-0 left-0 z-10 w-[4px] rounded-full bg-tape" data-testid="end-place">
          {further > 0 && (
            <span
              className={`absolute -top-5 rounded-sm bg-tape px-1.5 text-[12px] whitespace-nowrap text-paper
                ${drawn.end === 'head' ? 'left-0' : 'right-0'}`}
            >
              {(further / RATE).toFixed(1)} s more of the tape
            </span>
          )}
        </div>
      )}
    </>
  )
}
