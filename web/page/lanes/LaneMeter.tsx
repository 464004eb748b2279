import { useMemo, useRef } from 'react'
import type { LaneOf } from '../../../core/page/onlyLane'
import { decibels } from '../../../core/sound/level'
import type { Plan } from '../../../core/render/plan'
import { RATE, type Frames } from '../../../core/time'
import { useFrames } from '../../sound/usePlayer'
import { Wave } from '../../sound/wave'

/** It shows what sounds now over so long, from this level up, in dBFS. */
const SPAN: Frames = RATE / 20
const LOWEST = -48

interface Props {
  planOf: (lane: LaneOf) => Plan
  lane: LaneOf
  name: string
  place: () => Frames
}

/** How high the peaks of one lane are while it plays: a line under its name. Told by the peaks that its wave is drawn from. */
export function LaneMeter({ planOf, lane, place, name }: Props) {
  const line = useRef<HTMLSpanElement>(null)
  const wave = useMemo(() => new Wave(planOf(lane)), [planOf, lane])
  const column = useRef(new Float64Array(3))
  useFrames(() => {
    const at = place()
    wave.column(at, at + SPAN, SPAN / 4, column.current)
    const peak = Math.max(-column.current[0], column.current[1])
    const share = Math.max(0, Math.min(1, 1 - decibels(peak) / LOWEST))
    if (line.current) line.current.style.transform = `scaleX(${peak > 0 ? share.toFixed(3) : 0})`
  }, true)
  return (
    <span className="absolute inset-x-1 bottom-0 h-[3px] overflow-hidden" data-testid="lane-meter" aria-hidden title={name}>
      <span ref={line} className="block h-full origin-left bg-ink" style={{ transform: 'scaleX(0)' }} />
    </span>
  )
}
