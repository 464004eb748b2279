import { xOf } from '../../../core/sheet/layout'
import { colour } from '../../ui/theme'
import { MARGIN } from './metrics'
import type { Print } from './print'

/** The edges of what is selected. */
export function printEdges({ context, places, model: { selection }, index, line, top, waveHeight }: Print): void {
  if (!selection || selection.to <= selection.from) return
  for (const [edge, late] of [
    [selection.from, false],
    [selection.to, true],
  ] as const) {
    if (places.placeOf(edge, late).line !== index) continue
    context.fillStyle = colour('tape')
    context.fillRect(MARGIN + xOf(line, edge) - 1, top - 2, 2, waveHeight + 4)
  }
}
