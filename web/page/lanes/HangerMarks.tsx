import { useState, type PointerEvent } from 'react'
import { setLevelPoint } from '../../../core/page/hangerActs'
import type { PlacedHanger } from '../../../core/page/lay'
import type { LevelPoint } from '../../../core/sound/level'
import type { Frames } from '../../../core/time'
import type { Hangers } from './useHangers'
import type { Heights } from './useHeights'

/** So many dB a pixel is a level point turned by when it is dragged sideways. */
const DB_A_PIXEL = 0.5
const NAMES = { under: 'under', deep: 'deeper', up: 'up' } as const

interface Props {
  one: PlacedHanger
  hangers: Hangers
  heights: Heights
  /** Where the picture begins on the page, and the middle of the lane in it, in pixels. */
  top: number
  x: number
  /** Half the width of a sound at its full level. */
  wide: number
}

interface Dragged {
  what: 'section' | 'point'
  index: number
  fromX: number
  fromY: number
  x: number
  y: number
}

/** What can be taken hold of on the sound that is chosen: where it goes under or up, and its level points. */
export function HangerMarks({ one, hangers, heights, top, x, wide }: Props) {
  const [dragged, setDragged] = useState<Dragged | null>(null)
  const { hanger, from, skip, sections, lane } = one
  const frameAt = (at: Frames, by: number) => heights.frameAt(heights.yOf(at) + by)
  const ofPage = (point: LevelPoint): Frames => from + point.at - skip

  const press = (what: Dragged['what'], index: number) => (event: PointerEvent<SVGElement>) => {
    if (event.button !== 0 || lane.locked) return
    event.stopPropagation()
    event.currentTarget.setPointerCapture(event.pointerId)
    setDragged({ what, index, fromX: event.clientX, fromY: event.clientY, x: 0, y: 0 })
  }
  const drag = (event: PointerEvent) => {
    if (!dragged) return
    event.stopPropagation()
    setDragged({ ...dragged, x: event.clientX - dragged.fromX, y: event.clientY - dragged.fromY })
  }
  const drop = (event: PointerEvent) => {
    if (!dragged) return
    event.stopPropagation()
    setDragged(null)
    if (!dragged.x && !dragged.y) return
    if (dragged.what === 'section') {
      hangers.moveSection(one, dragged.index, frameAt(sections[dragged.index].at, dragged.y), !event.altKey)
      return
    }
    const point = hanger.level![dragged.index]
    const to = { at: point.at + frameAt(ofPage(point), dragged.y) - ofPage(point), dB: point.dB + dragged.x * DB_A_PIXEL }
    hangers.act(setLevelPoint(one, point, to), 'move a level point')
  }
  const hold = (what: Dragged['what'], index: number) => ({
    onPointerDown: press(what, index),
    onPointerMove: drag,
    onPointerUp: drop,
    onClick: (event: { stopPropagation: () => void }) => event.stopPropagation(),
  })
  const moved = (what: Dragged['what'], index: number) => (dragged?.what === what && dragged.index === index ? dragged : { x: 0, y: 0 })
  return (
    <>
      {sections.map(({ at, is }, i) => {
        const y = heights.yOf(at) - top + moved('section', i).y
        return (
          <g key={i} className="cursor-ns-resize" data-testid="section-mark" {...hold('section', i)}>
            <title>{`${NAMES[is]} from here; drag it, with Alt to any place`}</title>
            <rect x={x - wide - 6} y={y - 7} width={2 * wide + 12} height={14} fill="transparent" />
            <line x1={x - wide - 4} x2={x + wide + 4} y1={y} y2={y} stroke="var(--cut)" strokeWidth={2} />
          </g>
        )
      })}
      {(hanger.level ?? []).map((point, i) => {
        const by = moved('point', i)
        return (
          <circle
            key={point.at}
            className="cursor-move"
            data-testid="level-mark"
            cx={x + by.x}
            cy={heights.yOf(ofPage(point)) - top + by.y}
            r={5}
            fill="var(--paper-lit)"
            stroke="var(--cut)"
            strokeWidth={2}
            {...hold('point', i)}
          >
            <title>{`${point.dB} dB; drag it down the page, or sideways for its level`}</title>
          </circle>
        )
      })}
    </>
  )
}
