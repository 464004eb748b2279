import type { Frames } from '../../core/time'
import type { SheetModel } from './paint/model'
import type { SheetSurface } from './surface'

/** What of a Sheet lies so near to a pointer that it is meant. */

export interface Near {
  surface: SheetSurface
  model: SheetModel
  place: () => Frames
}

interface Point {
  x: number
  y: number
}

const EDGE_REACH = 6
const GRIP_REACH = 9
export const POINT_REACH = GRIP_REACH
/** A mark stands above its line. */
const MARK_HEIGHT = 12

/** How tall the playhead is: over the sound and its words. */
export const headHeight = ({ surface, model }: Pick<Near, 'surface' | 'model'>): number =>
  surface.look.waveHeight + (model.words.length ? 38 : 10)

/** An edge of what is selected. */
export function edgeNear({ surface, model }: Near, { x, y }: Point): 'from' | 'to' | undefined {
  if (!model.selection) return undefined
  for (const edge of ['from', 'to'] as const) {
    const at = surface.placeOf(model.selection[edge], edge === 'to')
    if (Math.abs(at.x - x) <= EDGE_REACH && y >= at.y - 4 && y <= at.y + surface.look.waveHeight + 4) return edge
  }
  return undefined
}

/** The playhead has a grip below its line. */
export function gripNear({ surface, model, place }: Near, { x, y }: Point): boolean {
  if (!surface.layout.lines.length) return false
  const head = surface.placeOf(place())
  return Math.abs(head.x - x) <= GRIP_REACH && Math.abs(head.y + headHeight({ surface, model }) - y) <= GRIP_REACH
}

export const markNear = ({ surface, model }: Near, { x, y }: Point): string | undefined =>
  model.marks.find(({ at }) => {
    const there = surface.placeOf(at)
    return Math.abs(there.x - x) <= EDGE_REACH && y >= there.y - MARK_HEIGHT && y <= there.y
  })?.id
