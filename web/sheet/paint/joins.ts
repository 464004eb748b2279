import { xOf } from '../../../core/sheet/layout'
import { clamp } from '../../../core/time'
import { colour } from '../../ui/theme'
import { MARGIN } from './metrics'
import type { Print } from './print'

/** How far the stroke of a join leans to either side, in pixels. */
const [LEAST_LEAN, MOST_LEAN] = [5, 60]

/** Joins, as strokes that lean as far as their crossfade is long. */
export function printJoins({ context, places, model, index, line, top, baseline }: Print): void {
  for (const nick of model.nicks) {
    if (nick.at < line.from || nick.at > line.to || places.placeOf(nick.at).line !== index) continue
    const x = MARGIN + xOf(line, nick.at)
    context.strokeStyle = colour('cut')
    context.lineWidth = nick.chosen ? 3 : nick.heard ? 1.6 : 2.2
    context.beginPath()
    const lean = clamp(xOf(line, Math.min(line.to, nick.at + nick.fade / 2)) - xOf(line, nick.at), LEAST_LEAN, MOST_LEAN)
    context.moveTo(x + lean, top - 6)
    context.lineTo(x - lean, baseline + 4)
    context.stroke()
  }
}
