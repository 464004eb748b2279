import { useEffect, useRef, useState, type PointerEvent } from 'react'
import { isRoom, type Cut } from '../../core/edits/editList'
import type { TapeFacts } from '../../core/sound/plan'
import { milliseconds, RATE, type Frames } from '../../core/time'
import { colour, useTheme } from '../ui/theme'
import { cleared, drawSamples, drawSpectrum, strokeCut, useSamplesAround } from './sampleWave'

/**
 * A join to the sample, as a splice of tape: the side that goes above, the side that comes below,
 * what lies beyond each in grey, and the cut as a slanting stroke whose slant is the crossfade.
 */

const REACH = milliseconds(200)
const HEIGHT = 178

interface Props {
  cut: Cut
  factsOf: (tape: string) => TapeFacts
  scale: number
  /** The spectrum of either side stands under its wave. */
  spectrum: boolean
  onMove: (side: 'left' | 'right' | 'both', by: Frames) => void
}

export function CloseUp({ cut, factsOf, scale, spectrum, onMove }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const { theme } = useTheme()
  const [drag, setDrag] = useState<{ side: 'left' | 'right' | 'both'; x: number; by: Frames } | null>(null)
  const [width, setWidth] = useState(0)
  const left = useSamplesAround(factsOf(cut.left.tape), cut.left.to, 2 * REACH, !isRoom(cut.left))
  const right = useSamplesAround(factsOf(cut.right.tape), cut.right.from, 2 * REACH, !isRoom(cut.right))

  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => setWidth(entry.contentRect.width))
    watch.observe(canvas.current!.parentElement!)
    return () => watch.disconnect()
  }, [])
  useEffect(() => {
    const frame = requestAnimationFrame(() => {
      if (canvas.current && width) draw(canvas.current, width, cut, left ?? null, right ?? null, scale, spectrum, drag)
    })
    return () => cancelAnimationFrame(frame)
  }, [width, cut, left, right, scale, spectrum, drag, theme])

  const perPixel = (2 * REACH) / Math.max(1, width)
  const onDown = (event: PointerEvent<HTMLCanvasElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId)
    const box = event.currentTarget.getBoundingClientRect()
    const x = event.clientX - box.left
    const onStroke = Math.abs(x - width / 2) < 14
    setDrag({ side: onStroke ? 'both' : event.clientY - box.top < HEIGHT / 2 ? 'left' : 'right', x: event.clientX, by: 0 })
  }
  const onUp = () => {
    if (drag?.by) onMove(drag.side, drag.by)
    setDrag(null)
  }
  return (
    <div className="h-[178px] w-full">
      <canvas
        ref={canvas}
        className="block w-full cursor-ew-resize touch-none"
        style={{ height: HEIGHT }}
        role="img"
        aria-label="Close-up of the join: what goes above, what comes below. Drag either side to move its edge, the stroke to move the cut."
        onPointerDown={onDown}
        onPointerMove={(event) => drag && setDrag({ ...drag, by: Math.round((event.clientX - drag.x) * perPixel) * (drag.side === 'both' ? 1 : -1) })}
        onPointerUp={onUp}
        onPointerCancel={() => setDrag(null)}
      />
    </div>
  )
}

function draw(canvas: HTMLCanvasElement, width: number, cut: Cut, left: Float32Array | null, right: Float32Array | null, scale: number, spectrum: boolean, drag: { side: string; by: Frames } | null): void {
  const context = cleared(canvas, width, HEIGHT)
  const per = (2 * REACH) / width
  const fade = cut.join.fade / per
  const slip = (side: 'left' | 'right') => (drag?.side === side ? drag.by : 0)
  const both = drag?.side === 'both' ? drag.by : 0
  const x0 = width / 2 + both / per
  // the stroke leans by the crossfade, and never so little that it cannot be seen to lean
  const lean = Math.max(14, fade) / 2
  const lanes = [
    { samples: left, offset: REACH + slip('left'), middle: spectrum ? 20 : 48, kept: (x: number) => x < x0 + lean },
    { samples: right, offset: REACH + slip('right'), middle: spectrum ? 96 : 122, kept: (x: number) => x >= x0 - lean },
  ]
  for (const { samples, offset, middle, kept } of lanes) {
    drawSamples(context, samples, offset, middle, width, per, scale, kept, spectrum ? 17 : undefined)
    if (spectrum) drawSpectrum(context, samples, offset, middle + 20, 36, width, per)
  }
  strokeCut(context, [x0 + lean, 10], [x0 - lean, HEIGHT - 24])
  context.fillStyle = colour('ink-faint')
  context.font = '11px "Public Sans Variable", sans-serif'
  context.textAlign = 'center'
  for (let ms = -150; ms <= 150; ms += 50) {
    const x = width / 2 + (ms / 1000) * (RATE / per)
    context.fillRect(x, HEIGHT - 20, 1, 5)
    context.fillText(ms === 150 ? '150 ms' : String(ms).replace('-', '−'), x, HEIGHT - 4)
  }
}
