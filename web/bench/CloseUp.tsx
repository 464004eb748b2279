import { useEffect, useRef, useState, type PointerEvent } from 'react'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import type { Cut } from '../../core/edits/editList'
import type { TapeFacts } from '../../core/sound/plan'
import { milliseconds, RATE, type Frames } from '../../core/time'
import { samples } from '../sound/samples'
import { colour, useTheme } from '../ui/theme'

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
  onMove: (side: 'left' | 'right' | 'both', by: Frames) => void
}

export function CloseUp({ cut, factsOf, scale, onMove }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const { theme } = useTheme()
  const [drag, setDrag] = useState<{ side: 'left' | 'right' | 'both'; x: number; by: Frames } | null>(null)
  const [width, setWidth] = useState(0)
  const left = useSamples(factsOf(cut.left.tape), cut.left.to, cut.left.sound)
  const right = useSamples(factsOf(cut.right.tape), cut.right.from, cut.right.sound)

  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => setWidth(entry.contentRect.width))
    watch.observe(canvas.current!.parentElement!)
    return () => watch.disconnect()
  }, [])
  useEffect(() => {
    const frame = requestAnimationFrame(() => {
      if (canvas.current && width) draw(canvas.current, width, cut, left ?? null, right ?? null, scale, drag)
    })
    return () => cancelAnimationFrame(frame)
  }, [width, cut, left, right, scale, drag, theme])

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

function useSamples(tape: TapeFacts, edge: Frames, sound: 'tape' | 'tone'): Float32Array | undefined {
  return useQuery({
    queryKey: ['samples', tape.id, edge, sound],
    enabled: sound === 'tape' && tape.frames > 0,
    staleTime: Infinity,
    placeholderData: keepPreviousData,
    queryFn: async () => {
      const from = Math.max(0, edge - 2 * REACH)
      const found = await samples(tape, from, edge + 2 * REACH)
      // the edge stands in the middle, whatever the tape has before or after it
      const out = new Float32Array(4 * REACH)
      out.set(found.subarray(0, out.length - (from - edge + 2 * REACH)), from - edge + 2 * REACH)
      return out
    },
  }).data
}

function draw(canvas: HTMLCanvasElement, width: number, cut: Cut, left: Float32Array | null, right: Float32Array | null, scale: number, drag: { side: string; by: Frames } | null): void {
  const dpr = devicePixelRatio
  canvas.width = Math.round(width * dpr)
  canvas.height = Math.round(HEIGHT * dpr)
  const context = canvas.getContext('2d')!
  context.scale(dpr, dpr)
  context.clearRect(0, 0, width, HEIGHT)
  const per = (2 * REACH) / width
  const fade = cut.join.fade / per
  const slip = (side: 'left' | 'right') => (drag?.side === side ? drag.by : 0)
  const both = drag?.side === 'both' ? drag.by : 0
  const x0 = width / 2 + both / per
  // the stroke leans by the crossfade, and never so little that it cannot be seen to lean
  const lean = Math.max(14, fade) / 2
  wave(context, left, REACH - slip('left') * -1, 48, width, per, scale, (x) => x < x0 + lean)
  wave(context, right, REACH + slip('right') * 1, 122, width, per, scale, (x) => x >= x0 - lean)
  context.strokeStyle = colour('cut')
  context.lineWidth = 2.4
  context.lineCap = 'round'
  context.beginPath()
  context.moveTo(x0 + lean, 10)
  context.lineTo(x0 - lean, HEIGHT - 24)
  context.stroke()
  context.fillStyle = colour('ink-faint')
  context.font = '11px "Public Sans Variable", sans-serif'
  context.textAlign = 'center'
  for (let ms = -150; ms <= 150; ms += 50) {
    const x = width / 2 + (ms / 1000) * (RATE / per)
    context.fillRect(x, HEIGHT - 20, 1, 5)
    context.fillText(ms === 150 ? '150 ms' : String(ms).replace('-', '−'), x, HEIGHT - 4)
  }
}

/** Draws samples from `offset` on (in frames of the run), in ink where `kept` says so and in grey beyond. */
function wave(context: CanvasRenderingContext2D, samples: Float32Array | null, offset: Frames, middle: number, width: number, per: number, scale: number, kept: (x: number) => boolean): void {
  const ink = colour('ink')
  const grain = colour('grain')
  if (!samples) {
    context.fillStyle = grain
    context.fillRect(0, middle, width, 1)
    return
  }
  context.lineWidth = 1.1
  let stroke = ''
  for (let x = 0; x < width; x++) {
    let low = 0
    let high = 0
    const from = Math.floor(offset + x * per)
    for (let i = from; i <= from + per && i < samples.length; i++) {
      const sample = samples[i] ?? 0
      if (i === from || sample < low) low = sample
      if (i === from || sample > high) high = sample
    }
    const colourNow = kept(x) ? ink : grain
    if (colourNow !== stroke) context.fillStyle = stroke = colourNow
    const top = middle - Math.min(36, high * scale * 36)
    const bottom = middle - Math.max(-36, low * scale * 36)
    context.fillRect(x, top, 1.2, Math.max(1.2, bottom - top))
  }
}
