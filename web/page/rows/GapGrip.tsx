import { useState, type PointerEvent } from 'react'
import { RATE, type Frames } from '../../../core/time'

/** Where a block begins, to be dragged: further down it leaves more room before it, further up it begins before the one above has ended. */
export function GapGrip({ label, onMove }: { label: string; onMove: (by: Frames) => void }) {
  const [drawn, setDrawn] = useState<{ y: number; by: Frames } | null>(null)
  const moved = (event: PointerEvent<HTMLSpanElement>): Frames => {
    const second = parseFloat(getComputedStyle(event.currentTarget).getPropertyValue('--second'))
    return Math.round(((event.clientY - drawn!.y) / second) * RATE)
  }
  return (
    <span
      data-testid="gap-grip"
      title={label}
      className="absolute -top-[3px] left-0 z-10 h-[7px] w-[136px] cursor-ns-resize max-[860px]:w-full"
      onClick={(event) => event.stopPropagation()}
      onPointerDown={(event) => {
        if (event.button !== 0) return
        event.stopPropagation()
        event.currentTarget.setPointerCapture(event.pointerId)
        setDrawn({ y: event.clientY, by: 0 })
      }}
      onPointerMove={(event) => drawn && setDrawn({ ...drawn, by: moved(event) })}
      onPointerUp={() => {
        if (drawn?.by) onMove(drawn.by)
        setDrawn(null)
      }}
    >
      {drawn && drawn.by !== 0 && (
        <>
          <span
            className="absolute inset-x-0 h-[2px] bg-cut"
            style={{ top: `calc(${(drawn.by / RATE).toFixed(3)} * var(--second) + 3px)` }}
          />
          <span className="absolute top-2 right-1 rounded bg-cut-ink px-1.5 text-[11px] font-semibold text-paper">
            {drawn.by > 0 ? '+' : '−'}
            {(Math.abs(drawn.by) / RATE).toFixed(2)} s
          </span>
        </>
      )}
    </span>
  )
}
