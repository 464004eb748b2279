import type { Line } from '../../../core/sheet/layout'
import type { LevelPoint } from '../../../core/sound/level'
import type { Frames } from '../../../core/time'
import type { SheetModel } from './model'
import type { SheetPlaces } from './places'

/** One line of a Sheet, to be printed over its wave. Heights are pixels of the view. */
export interface Print {
  context: CanvasRenderingContext2D
  places: SheetPlaces
  model: SheetModel
  index: number
  line: Line
  top: number
  middle: number
  baseline: number
  waveHeight: number
  /** A point of a level line that is dragged: where it stands, and where to. */
  dragged: { at: Frames; to: LevelPoint } | null
  /** How wide each word lies, with the space after it. */
  wordWidths: readonly { width: number }[]
}

export type Painter = (print: Print) => void

/** A text, cut short where it does not fit. */
export function fitted(context: CanvasRenderingContext2D, text: string, width: number): string {
  if (context.measureText(text).width <= width) return text
  let short = text
  while (short && context.measureText(`${short}…`).width > width) short = short.slice(0, -1)
  return `${short.trimEnd()}…`
}
