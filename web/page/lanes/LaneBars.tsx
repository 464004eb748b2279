import { memo, useMemo, useRef, useState, type PointerEvent, type RefObject } from 'react'
import type { PlacedHanger } from '../../../core/page/lay'
import type { Hanger } from '../../../core/page/story'
import type { Layout } from '../../../core/page/timing'
import { lineAt } from '../../../core/sound/level'
import { clock, toFrames, type Frames } from '../../../core/time'
import { HangerMarks } from './HangerMarks'
import { whyNot, type Hangers } from './useHangers'
import { useLaneDrop } from './useLaneDrop'
import { useHeights, type Heights } from './useHeights'
import { useInView } from './useInView'

/** Half the width of a sound at its full level, as a share of its lane, and of one that is all but gone, in pixels. */
const WIDE = 0.33
const NARROW = 1
/** Its shape is worked out at every so many pixels. */
const EVERY = 3
/** So near to an end it is the end that is drawn. */
const GRIP = 9

interface Props {
  /** The rows that they lie beside, in what scrolls. */
  content: RefObject<HTMLElement | null>
  layout: Layout
  hangers: Hangers
  /** How tall a second is, in pixels. */
  second: number
  /** How wide a lane is, in pixels. */
  width: number
  nameOf: (hanger: Hanger) => string
  story: string
  slugOf: (piece: string) => string
  /** Plays from a place. */
  onPlay: (frame: Frames) => void
}

interface Drawn {
  id: string
  edge: 'start' | 'end' | 'both'
  y: number
  by: number
}

/** What lies in the lanes beside the script: each sound as long as it lasts, narrow where it goes under. */
export function LaneBars({ content, layout, hangers, second, width, nameOf, story, slugOf, onPlay }: Props) {
  const heights = useHeights(content, layout, second)
  const view = useInView(content)
  const [drawn, setDrawn] = useState<Drawn | null>(null)
  const moved = useRef(false)
  const { chosen, lanes } = hangers
  const placed = useMemo(() => [...hangers.placed].sort((a, b) => a.from - b.from), [hangers.placed])
  const ends = placed.map(({ to }) => heights.yOf(to))
  const drawnNow = placed.filter(
    (one, i) => one === chosen || one.hanger.id === drawn?.id || (ends[i] > view.top && heights.yOf(one.from) < view.bottom),
  )
  const bottom = Math.max(heights.bottom, ...ends) + 8
  // a picture as tall as a long page would be painted whole at each change
  const top = Math.max(0, view.top)
  const height = Math.max(0, Math.min(bottom, view.bottom) - top)
  const yOf = (frame: Frames) => heights.yOf(frame) - top
  /** Where the pointer is, in pixels from the top of the page. */
  const pointedAt = ({ clientY, currentTarget }: PointerEvent<SVGGElement>) =>
    clientY - currentTarget.ownerSVGElement!.getBoundingClientRect().top + top

  const press = (one: PlacedHanger) => (event: PointerEvent<SVGGElement>) => {
    if (event.button !== 0) return
    hangers.choose(one.hanger.id)
    const y = pointedAt(event)
    const edge = y - heights.yOf(one.from) < GRIP ? 'start' : heights.yOf(one.to) - y < GRIP ? 'end' : 'both'
    event.currentTarget.setPointerCapture(event.pointerId)
    moved.current = false
    setDrawn({ id: one.hanger.id, edge, y, by: 0 })
  }
  const draw = (event: PointerEvent<SVGGElement>) => {
    if (!drawn) return
    const y = pointedAt(event)
    if (Math.abs(y - drawn.y) > 3) moved.current = true
    setDrawn({ ...drawn, by: moved.current ? heights.frameAt(y) - heights.frameAt(drawn.y) : 0 })
  }
  const drop = (one: PlacedHanger) => (event: PointerEvent) => {
    if (drawn && moved.current) hangers.move(one, drawn.edge, drawn.by, !event.altKey)
    else if (drawn) onPlay(heights.frameAt(drawn.y))
    setDrawn(null)
  }

  const { over, on } = useLaneDrop({
    story,
    hangers,
    slugOf,
    placeOf: ({ clientX, clientY, currentTarget }) => {
      const box = currentTarget.getBoundingClientRect()
      const lane = lanes[Math.floor((clientX - box.left) / width)]
      return lane ? { lane, at: heights.frameAt(clientY - box.top + top) } : null
    },
  })
  return (
    <svg
      {...on}
      className="absolute right-0 z-[5] max-[860px]:hidden"
      style={{ top }}
      width={lanes.length * width}
      height={height}
      data-testid="lanes"
      aria-label="Sounds in the lanes"
    >
      {lanes.map((lane, i) => (
        <line key={lane.id} x1={i * width + 0.5} x2={i * width + 0.5} y1={0} y2={height} stroke="var(--rule)" />
      ))}
      {over && (
        <line
          data-testid="drop-line"
          x1={lanes.findIndex(({ id }) => id === over.lane) * width + 4}
          x2={(lanes.findIndex(({ id }) => id === over.lane) + 1) * width - 4}
          y1={yOf(over.at)}
          y2={yOf(over.at)}
          stroke="var(--cut)"
          strokeWidth={3}
        />
      )}
      {drawnNow.map((one) => {
        const { hanger, lane } = one
        const column = lanes.findIndex(({ id }) => id === lane.id)
        const own = drawn?.id === hanger.id ? drawn : null
        const from = one.from + (own && own.edge !== 'end' ? own.by : 0)
        const to = Math.max(from + toFrames(0.1), one.to + (own && own.edge !== 'start' ? own.by : 0))
        const isChosen = chosen?.hanger.id === hanger.id
        const name = nameOf(hanger)
        const wrong = whyNot(one.start) ?? (one.end && whyNot(one.end))
        return (
          <g
            key={hanger.id}
            role="button"
            tabIndex={0}
            aria-label={`${name}, ${clock(one.from)} to ${clock(one.to)}${lane.muted ? ', muted' : ''}`}
            aria-pressed={isChosen}
            data-testid="hanger"
            className={`cursor-grab outline-none focus-visible:[&_path]:stroke-[2.5] ${lane.muted ? 'opacity-35' : ''}`}
            onPointerDown={press(one)}
            onPointerMove={draw}
            onPointerUp={drop(one)}
            onFocus={() => hangers.choose(hanger.id)}
          >
            <title>{[name, wrong].filter(Boolean).join(': ')}</title>
            <rect x={column * width + 2} width={width - 4} y={yOf(from)} height={Math.max(2, yOf(to) - yOf(from))} fill="transparent" />
            <g transform={`translate(0, ${-top})`}>
              <Shape
                one={one}
                from={from}
                to={to}
                heights={heights}
                top={view.top}
                bottom={view.bottom}
                x={(column + 0.5) * width}
                wide={WIDE * width}
                chosen={isChosen}
              />
            </g>
            {isChosen && !own && (
              <HangerMarks one={one} hangers={hangers} heights={heights} top={top} x={(column + 0.5) * width} wide={WIDE * width} />
            )}
            {wrong && <circle cx={(column + 0.5) * width} cy={yOf(from) + 6} r={4} fill="var(--cut)" />}
          </g>
        )
      })}
    </svg>
  )
}

interface ShapeProps {
  one: PlacedHanger
  from: Frames
  to: Frames
  heights: Heights
  /** What is in view or near it, in pixels from the top of the page: no more of it is worked out. */
  top: number
  bottom: number
  x: number
  /** Half its width at full level. */
  wide: number
  chosen: boolean
}

const Shape = memo(function Shape({ one, from, to, heights, top, bottom, x, wide, chosen }: ShapeProps) {
  const outline = useMemo(
    () => shapeOf({ ...one, from, to }, heights, { top, bottom }, x, wide),
    [one, from, to, heights, top, bottom, x, wide],
  )
  return (
    <path
      d={outline}
      fill={`var(--${one.lane.colour})`}
      fillOpacity={chosen ? 0.75 : 0.42}
      stroke={chosen ? 'var(--cut)' : 'none'}
      strokeWidth={1.5}
    />
  )
})

/** The outline of a sound down the page, as far as it is in view: as wide as it is loud. */
function shapeOf(
  { hanger, lane, from, to, skip, dips }: PlacedHanger,
  heights: Heights,
  view: { top: number; bottom: number },
  x: number,
  wide: number,
): string {
  const top = Math.max(view.top, heights.yOf(from))
  const end = heights.yOf(to)
  const bottom = Math.max(top, Math.min(view.bottom, end))
  const { fadeIn = 0, fadeOut = 0, level = [] } = hanger
  const half = (y: number): number => {
    const at = heights.frameAt(y) - from
    const dB = (dips.length ? lineAt(dips, at) : 0) + (level.length ? lineAt(level, at + skip) : 0) + Math.min(0, lane.gain)
    const faded = Math.min(1, fadeIn ? at / fadeIn : 1, fadeOut ? (to - from - at) / fadeOut : 1)
    return Math.max(NARROW, wide * 10 ** (dB / 30) * Math.max(0, faded))
  }
  const rows: [y: number, half: number][] = []
  for (let y = top; y < bottom; y += EVERY) {
    const width = half(y)
    const [before, last] = [rows.at(-2), rows.at(-1)]
    // what stays as wide is one long line
    if (before && last && Math.abs(last[1] - width) < 0.05 && Math.abs(before[1] - width) < 0.05) last[0] = y
    else rows.push([y, width])
  }
  rows.push([bottom, fadeOut && bottom === end ? NARROW : half(bottom)])
  const point =
    (side: 1 | -1) =>
    ([y, width]: [number, number]) =>
      `${(x + side * width).toFixed(1)},${y.toFixed(1)}`
  return `M${rows.map(point(-1)).join('L')}L${rows.reverse().map(point(1)).join('L')}Z`
}
