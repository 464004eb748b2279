import { xOf } from '../../../core/sheet/layout'
import { colour } from '../../ui/theme'
import { MARGIN, SMALL } from './metrics'
import { fitted, type Print } from './print'

/** Marks above the wave, with their words. */
export function printMarks({ context, model, line, top }: Print): void {
  context.font = SMALL
  for (const mark of model.marks) {
    if (mark.at < line.from || mark.at >= line.to) continue
    const x = MARGIN + xOf(line, mark.at)
    context.fillStyle = colour(mark.colour ?? 'tape')
    context.beginPath()
    context.moveTo(x - 4, top - 9)
    context.lineTo(x + 4, top - 9)
    context.lineTo(x, top - 2)
    context.fill()
    context.fillText(fitted(context, `${mark.star ? '★ ' : ''}${mark.text}`, 180), x + 7, top - 3)
  }
}
