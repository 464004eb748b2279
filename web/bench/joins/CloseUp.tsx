import { useEffect, useRef, useState, type PointerEvent } from 'react'
import { isRoom, type Cut } from '../../../core/edits/editList'
import type { TapeFacts } from '../../../core/render/plan'
import { milliseconds, RATE, type Frames } from '../../../core/time'
import { keyCap, keysOf } from '../../commands/keys'
import type { CommandId } from '../../commands/table'
import { colour, useTheme } from '../../ui/theme'
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
  /** The crossfade is to be as long as that. */
  onFade: (fade: Frames) => void
  /** The sides are to overlap by so much more. */
  onOverlap: (by: Frames) => void
}

/** What is dragged: a side, the cut, or an end of its stroke. */
type Held = 'left' | 'right' | 'both' | 'fade' | 'overlap'
interface Drag {
  held: Held
  x: number
  by: Frames
}
const GRIP = 11
const [TOP, BOTTOM] = [10, HEIGHT - 24]

export function CloseUp({ cut, factsOf, scale, spectrum, onMove, onFade, onOverlap }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const { theme } = useTheme()
  const [drag, setDrag] = useState<Drag | null>(null)
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
      if (canvas.current && width)
        draw(canvas.current, width, cut, (!isRoom(cut.left) && left) || null, (!isRoom(cut.right) && right) || null, scale, spectrum, drag)
    })
    return () => cancelAnimationFrame(frame)
  }, [width, cut, left, right, scale, spectrum, drag, theme])

  const perPixel = (2 * REACH) / Math.max(1, width)
  const onDown = (event: PointerEvent<HTMLCanvasElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId)
    const box = event.currentTarget.getBoundingClientRect()
    setDrag({ held: heldAt(event.clientX - box.left, event.clientY - box.top), x: event.clientX, by: 0 })
  }
  const heldAt = (x: number, y: number): Held => {
    const lean = leanOf(cut.join.fade, perPixel)
    const near = (end: number, height: number) => Math.hypot(x - end, y - height) < GRIP
    if (near(width / 2 + lean, TOP)) return 'fade'
    if (near(width / 2 - lean, BOTTOM)) return 'overlap'
    return Math.abs(x - width / 2) < 14 ? 'both' : y < HEIGHT / 2 ? 'left' : 'right'
  }
  const draggedBy = (held: Held, pixels: number): Frames =>
    Math.round(pixels * perPixel) * (held === 'both' ? 1 : held === 'fade' ? 2 : held === 'overlap' ? -2 : -1)
  const onUp = () => {
    if (drag?.by) {
      if (drag.held === 'fade') onFade(Math.max(0, cut.join.fade + drag.by))
      else if (drag.held === 'overlap') onOverlap(drag.by)
      else onMove(drag.held, drag.by)
    }
    setDrag(null)
  }
  return (
    <div className="h-[178px] w-full">
      <canvas
        ref={canvas}
        className="block w-full cursor-ew-resize touch-none"
        style={{ height: HEIGHT }}
        role="img"
        aria-label={
          'Close-up of the join: what goes above, what comes below. Drag either side to move its edge, the stroke to move the ' +
          'cut, its upper end for a longer crossfade, its lower end to have the sides overlap.'
        }
        onPointerDown={onDown}
        onPointerMove={(event) => drag && setDrag({ ...drag, by: draggedBy(drag.held, event.clientX - drag.x) })}
        onPointerUp={onUp}
        onPointerCancel={() => setDrag(null)}
      />
    </div>
  )
}

const keysFor = (less: CommandId, more: CommandId): string =>
  [less, more]
    .flatMap((id) => keysOf(id).slice(0, 1))
    .map(keyCap)
    .join(', ')

/** Half of how far the stroke leans, in pixels: by the crossfade, and never so little that it cannot be seen to lean. */
const leanOf = (fade: Frames, per: number): number => Math.max(14, fade / per) / 2

function draw(
  canvas: HTMLCanvasElement,
  width: number,
  cut: Cut,
  left: Float32Array | null,
  right: Float32Array | null,
  scale: number,
  spectrum: boolean,
  drag: Drag | null,
): void {
  const context = cleared(canvas, width, HEIGHT)
  const per = (2 * REACH) / width
  const by = (held: Held) => (drag?.held === held ? drag.by : 0)
  // what overlaps comes nearer from both sides
  const slip = (side: 'left' | 'right') => by(side) + ((side === 'left' ? -1 : 1) * Math.max(-cut.join.fade, by('overlap'))) / 2
  const both = by('both')
  const x0 = width / 2 + both / per
  const lean = leanOf(Math.max(0, cut.join.fade + by('fade') + by('overlap')), per)
  const lanes = [
    { samples: left, offset: REACH + slip('left'), middle: spectrum ? 20 : 48, kept: (x: number) => x < x0 + lean },
    { samples: right, offset: REACH + slip('right'), middle: spectrum ? 96 : 122, kept: (x: number) => x >= x0 - lean },
  ]
  for (const { samples, offset, middle, kept } of lanes) {
    drawSamples(context, samples, offset, middle, width, per, scale, kept, spectrum ? 17 : undefined)
    if (spectrum) drawSpectrum(context, samples, offset, middle + 20, 36, width, per)
  }
  strokeCut(context, [x0 + lean, TOP], [x0 - lean, BOTTOM])
  context.font = '11px "Public Sans Variable", sans-serif'
  for (const [x, y, text, align] of [
    [x0 + lean, TOP, `fade ${keysFor('join.fadeShorter', 'join.fadeLonger')}`, 'left'],
    [x0 - lean, BOTTOM, `overlap ${keysFor('join.overlapLess', 'join.overlapMore')}`, 'right'],
  ] as const) {
    context.fillStyle = colour('cut')
    context.beginPath()
    context.arc(x, y, 3.6, 0, 2 * Math.PI)
    context.fill()
    context.textAlign = align
    context.fillStyle = colour('ink-faint')
    context.fillText(text, x + (align === 'left' ? 8 : -8), y + 4)
  }
  context.fillStyle = colour('ink-faint')
  context.textAlign = 'center'
  for (let ms = -150; ms <= 150; ms += 50) {
    const x = width / 2 + (ms / 1000) * (RATE / per)
    context.fillRect(x, HEIGHT - 20, 1, 5)
    context.fillText(ms === 150 ? '150 ms' : String(ms).replace('-', '−'), x, HEIGHT - 4)
  }
}
