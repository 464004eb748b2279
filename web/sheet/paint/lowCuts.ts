import { xOf } from '../../../core/sheet/layout'
import { colour } from '../../ui/theme'
import { MARGIN, SMALL } from './metrics'
import type { Print } from './print'

/** A rule of dashes along the foot of the wave where it is cut below, with the frequency at its start. */
export function printLowCuts({ context, model, line, top, waveHeight }: Print): void {
  for (const { from, to, hertz } of model.lowCuts ?? []) {
    if (to <= line.from || from >= line.to) continue
    const [left, right] = [MARGIN + xOf(line, Math.max(from, line.from)), MARGIN + xOf(line, Math.min(to, line.to))]
    context.save()
    context.strokeStyle = colour('tape')
    context.lineWidth = 1.5
    context.setLineDash([5, 3])
    context.beginPath()
    context.moveTo(left, top + waveHeight - 1)
    context.lineTo(right, top + waveHeight - 1)
    context.stroke()
    context.restore()
    if (from < line.from) continue
    context.font = SMALL
    context.fillStyle = colour('tape')
    context.fillText(`low cut ${hertz} Hz`, left + 2, top + waveHeight - 5)
  }
}
