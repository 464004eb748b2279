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
  const outline = useRef<Outline | null>(null)

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
    const draw = () => {
      outline.current = outlineOf(element, model, outline.current)
      paint(element, model, outline.current)
    }
    // the Sheet itself comes first
    const idle = requestIdleCallback(draw, { timeout: 200 })
    const stop = peakCache.onChange(() => outline.current?.whole || draw())
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

/** How far the sound reaches in each row, from 0 to 1. */
interface Outline {
  /** What it was made of. */
  of: readonly unknown[]
  reach: Float32Array
  /** All that is to be seen was there. */
  whole: boolean
}

/** The one there is, where it is still true. */
function outlineOf(canvas: HTMLCanvasElement, model: SheetModel, before: Outline | null): Outline {
  const { wave, length, scale } = model
  const rows = Math.max(0, Math.ceil((canvas.clientHeight - 2 * PAD) * devicePixelRatio))
  const of = [wave, length, scale, rows]
  if (before?.whole && before.of.every((one, i) => one === of[i])) return before
  const reach = new Float32Array(rows)
  const column = new Float64Array(3)
  const per = length / rows
  let whole = true
  for (let row = 0; row < rows; row++) {
    const from = row * per
    whole = wave.column(from, Math.max(from + 1, from + per), per, column) && whole
    reach[row] = Math.min(1, Math.max(-column[0], column[1]) * scale)
  }
  return { of, reach, whole }
}

function paint(canvas: HTMLCanvasElement, model: SheetModel, { reach }: Outline): void {
  const scale = devicePixelRatio
  const [width, height] = [Math.round(WIDTH * scale), Math.round(canvas.clientHeight * scale)]
  if (canvas.width !== width) canvas.width = width
  if (canvas.height !== height) canvas.height = height
  const context = canvas.getContext('2d')!
  context.clearRect(0, 0, width, height)
  const middle = canvas.width / 2
  const most = middle - 4 * scale
  const plain = colour('grain')
  const used = colour('tape')
  const struck = colour('rule')
  const found = colour('cut')
  const rows = reach.length
  const per = model.length / rows
  const marked = new Uint8Array(rows)
  for (const { from, to } of model.found ?? []) marked.fill(1, Math.floor(from / per), Math.ceil(to / per))
  const looks = new Uint8Array(rows)
  const row =
    (look: number) =>
    ({ from, to }: Stretch) =>
      looks.fill(look, Math.floor(from / per), Math.ceil(to / per))
  model.shades.filter(({ look }) => look !== 'tone').forEach(row(1))
  for (const some of [model.used, model.also ?? [], model.selection ? [model.selection] : []]) some.forEach(row(2))
  const colours = [plain, struck, used]
  colours.forEach((one, look) => {
    context.fillStyle = one
    for (let i = 0; i < rows; i++) {
      if (looks[i] !== look) continue
      const size = Math.max(0.6, reach[i] * most)
      context.fillRect(middle - size, PAD * scale + i, size * 2, 1)
    }
  })
  context.fillStyle = found
  for (let i = 0; i < rows; i++) if (marked[i]) context.fillRect(canvas.width - 5 * scale, PAD * scale + i, 4 * scale, scale)
}
