import { memo, useMemo, useRef, useState, type PointerEvent } from 'react'
import type { PlacedHanger } from '../../../core/page/lay'
import type { Lane } from '../../../core/page/story'
import { lineAt } from '../../../core/sound/level'
import { clock, toFrames, type Frames } from '../../../core/time'
import { whyNot, type Hangers } from './useHangers'
import type { Heights } from './useHeights'

/** How wide a lane is, in pixels. */
export const LANE = 64
/** Half the width of a sound at its full level, and of one that is all but gone. */
const [WIDE, NARROW] = [21, 1]
/** Its shape is worked out at every so many pixels. */
const EVERY = 3
/** So near to an end it is the end that is drawn. */
const GRIP = 9

interface Props {
  hangers: Hangers
  heights: Heights
  lanes: readonly Lane[]
  nameOf: (placed: PlacedHanger) => string
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
export function LaneBars({ hangers, heights, lanes, nameOf, onPlay }: Props) {
  const [drawn, setDrawn] = useState<Drawn | null>(null)
  const moved = useRef(false)
  const { placed, chosen } = hangers
  const ends = placed.map(({ to }) => heights.yOf(to))
  const height = Math.max(heights.bottom, ...ends) + 8

  const press = (one: PlacedHanger) => (event: PointerEvent<SVGGElement>) => {
    if (event.button !== 0) return
    hangers.choose(one.hanger.id)
    const box = event.currentTarget.ownerSVGElement!.getBoundingClientRect()
    const y = event.clientY - box.top
    const [top, bottom] = [heights.yOf(one.from), heights.yOf(one.to)]
    const edge = y - top < GRIP ? 'start' : bottom - y < GRIP ? 'end' : 'both'
    event.currentTarget.setPointerCapture(event.pointerId)
    moved.current = false
    setDrawn({ id: one.hanger.id, edge, y, by: 0 })
  }
  const draw = (event: PointerEvent<SVGGElement>) => {
    if (!drawn) return
    const y = event.clientY - event.currentTarget.ownerSVGElement!.getBoundingClientRect().top
    if (Math.abs(y - drawn.y) > 3) moved.current = true
    setDrawn({ ...drawn, by: moved.current ? heights.frameAt(y) - heights.frameAt(drawn.y) : 0 })
  }
  const drop = (one: PlacedHanger) => (event: PointerEvent) => {
    if (drawn && moved.current) hangers.move(one, drawn.edge, drawn.by, !event.altKey)
    else if (drawn) onPlay(heights.frameAt(drawn.y))
    setDrawn(null)
  }

  return (
    <svg
      className="absolute top-0 right-0 z-[5] max-[860px]:hidden"
      width={lanes.length * LANE}
      height={height}
      data-testid="lanes"
      aria-label="Sounds in the lanes"
    >
      {lanes.map((lane, i) => (
        <line key={lane.id} x1={i * LANE + 0.5} x2={i * LANE + 0.5} y1={0} y2={height} stroke="var(--rule)" />
      ))}
      {placed.map((one) => {
        const { hanger, lane } = one
        const column = lanes.findIndex(({ id }) => id === lane.id)
        const own = drawn?.id === hanger.id ? drawn : null
        const from = one.from + (own && own.edge !== 'end' ? own.by : 0)
        const to = Math.max(from + toFrames(0.1), one.to + (own && own.edge !== 'start' ? own.by : 0))
        const isChosen = chosen?.hanger.id === hanger.id
        const name = nameOf(one)
        const wrong = whyNot(one.start) ?? (one.end && whyNot(one.end))
        return (
          <g
            key={hanger.id}
            role="button"
            tabIndex={0}
            aria-label={`${name}, ${clock(one.from)} to ${clock(one.to)}${lane.muted ? ', muted' : ''}`}
            aria-pressed={isChosen}
            data-testid="hanger"
            className={`cursor-grab outline-none focus-visible:[&>path]:stroke-[2.5] ${lane.muted ? 'opacity-35' : ''}`}
            onPointerDown={press(one)}
            onPointerMove={draw}
            onPointerUp={drop(one)}
            onFocus={() => hangers.choose(hanger.id)}
          >
            <title>{[name, wrong].filter(Boolean).join(': ')}</title>
            <rect
              x={column * LANE + 4}
              width={LANE - 8}
              y={heights.yOf(from)}
              height={Math.max(2, heights.yOf(to) - heights.yOf(from))}
              fill="transparent"
            />
            <Shape one={one} from={from} to={to} heights={heights} x={column * LANE + LANE / 2} chosen={isChosen} />
            {wrong && <circle cx={column * LANE + LANE / 2} cy={heights.yOf(from) + 6} r={4} fill="var(--cut)" />}
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
  x: number
  chosen: boolean
}

const Shape = memo(function Shape({ one, from, to, heights, x, chosen }: ShapeProps) {
  const outline = useMemo(() => shapeOf({ ...one, from, to }, heights, x), [one, from, to, heights, x])
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

/** The outline of a sound down the page: as wide as it is loud. */
function shapeOf({ hanger, lane, from, to, skip, dips }: PlacedHanger, heights: Heights, x: number): string {
  const [top, bottom] = [heights.yOf(from), heights.yOf(to)]
  const { fadeIn = 0, fadeOut = 0, level = [] } = hanger
  const half = (y: number): number => {
    const at = heights.frameAt(y) - from
    const dB = (dips.length ? lineAt(dips, at) : 0) + (level.length ? lineAt(level, at + skip) : 0) + Math.min(0, lane.gain)
    const faded = Math.min(1, fadeIn ? at / fadeIn : 1, fadeOut ? (to - from - at) / fadeOut : 1)
    return Math.max(NARROW, WIDE * 10 ** (dB / 30) * Math.max(0, faded))
  }
  const rows: [y: number, half: number][] = []
  for (let y = top; y < bottom; y += EVERY) {
    const width = half(y)
    const [before, last] = [rows.at(-2), rows.at(-1)]
    // what stays as wide is one long line
    if (before && last && Math.abs(last[1] - width) < 0.05 && Math.abs(before[1] - width) < 0.05) last[0] = y
    else rows.push([y, width])
  }
  rows.push([bottom, fadeOut ? NARROW : half(bottom)])
  const point =
    (side: 1 | -1) =>
    ([y, width]: [number, number]) =>
      `${(x + side * width).toFixed(1)},${y.toFixed(1)}`
  return `M${rows.map(point(-1)).join('L')}L${rows.reverse().map(point(1)).join('L')}Z`
}
