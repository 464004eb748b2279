import { useEffect, useImperativeHandle, useRef, type PointerEvent, type Ref } from 'react'
import { clamp, type Frames, type Stretch } from '../../core/time'
import { peakCache } from '../sound/peakCache'
import { useFrames } from '../sound/usePlayer'
import { colour } from '../ui/theme'
import type { SheetModel } from './paint/model'
import type { SheetSurface } from './surface'

const WIDTH = 34
const PAD = 6

/** The whole of it at the edge, standing: where one is, what is chosen, what was used already. */
export function Overview({
  ref,
  surface,
  model,
  place,
  playing,
  onPlace,
  onStray,
}: {
  /** To be called whenever the Sheet was painted. */ ref: Ref<() => void>
  surface: SheetSurface
  model: SheetModel
  place: () => Frames
  playing: boolean
  onPlace: (frame: Frames) => void
  onStray: () => void
}) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const view = useRef<HTMLDivElement>(null)
  const head = useRef<HTMLDivElement>(null)

  const height = () => (canvas.current?.clientHeight ?? 0) - 2 * PAD
  const yOf = (frame: Frames) => PAD + (frame / Math.max(1, model.length)) * height()

  const move = () => {
    if (!view.current || !head.current || !surface.layout.lines.length) return
    const { from, to } = surface.visible
    view.current.style.transform = `translateY(${yOf(from)}px)`
    view.current.style.height = `${Math.max(6, yOf(to) - yOf(from))}px`
    head.current.style.transform = `translateY(${yOf(place())}px)`
  }

  useEffect(() => {
    const element = canvas.current!
    let whole = false
    const draw = () => void (whole = paint(element, model))
    // the Sheet itself comes first
    const idle = requestIdleCallback(draw, { timeout: 200 })
    const stop = peakCache.onChange(() => whole || draw())
    const watch = new ResizeObserver(draw)
    watch.observe(element)
    const theme = new MutationObserver(draw)
    theme.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] })
    return () => {
      cancelIdleCallback(idle)
      stop()
      watch.disconnect()
      theme.disconnect()
    }
  }, [model])
  useFrames(move, playing)
  useImperativeHandle(ref, () => move)

  const go = (event: PointerEvent<HTMLDivElement>, click: boolean) => {
    const box = canvas.current!.getBoundingClientRect()
    const frame = Math.round(clamp((event.clientY - box.top - PAD) / height(), 0, 1) * model.length)
    if (!click || playing) onStray()
    surface.reveal(frame, true)
    if (click) onPlace(Math.min(frame, model.length))
  }

  return (
    <div
      className="relative shrink-0 cursor-pointer touch-none border-r border-rule"
      style={{ width: WIDTH }}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId)
        go(event, true)
      }}
      onPointerMove={(event) => event.buttons && go(event, false)}
    >
      <canvas ref={canvas} className="absolute inset-0 h-full w-full" aria-hidden />
      <div ref={view} className="pointer-events-none absolute top-0 right-0 left-0 border-y border-grain bg-ink/8" />
      <div ref={head} className="pointer-events-none absolute top-0 right-0 left-0 h-[2px] bg-cut" />
    </div>
  )
}

/** True where all that is to be seen was there. */
function paint(canvas: HTMLCanvasElement, model: SheetModel): boolean {
  const scale = devicePixelRatio
  canvas.width = Math.round(WIDTH * scale)
  canvas.height = Math.round(canvas.clientHeight * scale)
  const context = canvas.getContext('2d')!
  const rows = canvas.height - 2 * PAD * scale
  if (rows <= 0) return false
  let whole = true
  const column = new Float64Array(3)
  const middle = canvas.width / 2
  const most = middle - 4 * scale
  const plain = colour('grain')
  const used = colour('tape')
  const struck = colour('rule')
  const found = colour('cut')
  const per = model.length / rows
  const marked = new Uint8Array(Math.ceil(rows))
  for (const { from, to } of model.found ?? []) marked.fill(1, Math.floor(from / per), Math.ceil(to / per))
  for (let row = 0; row < rows; row++) {
    const from = row * per
    whole = model.wave.column(from, Math.max(from + 1, from + per), per, column) && whole
    const size = Math.max(0.6, Math.min(1, Math.max(-column[0], column[1]) * model.scale) * most)
    const here = (stretch: Stretch) => stretch.from < from + per && stretch.to > from
    const gone = model.shades.some((shade) => shade.look !== 'tone' && here(shade))
    const chosen = (model.selection && here(model.selection)) || model.also?.some(here) || model.used.some(here)
    context.fillStyle = chosen ? used : gone ? struck : plain
    context.fillRect(middle - size, PAD * scale + row, size * 2, 1)
    if (marked[row]) {
      context.fillStyle = found
      context.fillRect(canvas.width - 5 * scale, PAD * scale + row, 4 * scale, scale)
    }
  }
  return whole
}
