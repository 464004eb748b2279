import { useState } from 'react'
import { RATE, type Frames } from '../../../core/time'
import { secondOf } from './tall'

/** Where a block begins, to be dragged: further down it leaves more room before it, further up it begins before the one above has ended. */
export function GapGrip({ label, onMove }: { label: string; onMove: (by: Frames) => void }) {
  const [drawn, setDrawn] = useState<{ y: number; by: Frames; second: number } | null>(null)
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
        setDrawn({ y: event.clientY, by: 0, second: secondOf(event.currentTarget) })
      }}
      onPointerMove={({ clientY }) => drawn && setDrawn({ ...drawn, by: Math.round(((clientY - drawn.y) / drawn.second) * RATE) })}
      onPointerUp={() => {
        if (drawn?.by) onMove(drawn.by)
        setDrawn(null)
      }}
    >
      {drawn && drawn.by !== 0 && (
        <>
          <span className="absolute inset-x-0 h-[2px] bg-cut" style={{ top: (drawn.by / RATE) * drawn.second + 3 }} />
          <span className="absolute top-2 right-1 rounded bg-cut-ink px-1.5 text-[11px] font-semibold text-paper">
            {drawn.by > 0 ? '+' : '−'}
            {(Math.abs(drawn.by) / RATE).toFixed(2)} s
          </span>
        </>
      )}
    </span>
  )
}
