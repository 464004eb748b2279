import { frameAt, xOf } from '../../../core/sheet/layout'
import { lineAt, type LevelPoint } from '../../../core/sound/level'
import { clamp } from '../../../core/time'
import { colour } from '../../ui/theme'
import { LINE_REACH, MARGIN, SMALL } from './metrics'
import type { Print } from './print'

export const printLevels = (print: Print): void => {
  for (const points of print.model.lines ?? []) levelLine(print, points)
}

/** A level line over the wave, with what it does in dB where it is flat. */
function levelLine({ context, line, middle, waveHeight, dragged }: Print, drawn: readonly LevelPoint[]): void {
  const points = dragged ? drawn.map((point) => (point.at === dragged.at ? dragged.to : point)) : drawn
  const [from, to] = [Math.max(line.from, points[0].at), Math.min(line.to, points[points.length - 1].at)]
  if (to <= from) return
  const half = waveHeight / 2
  const y = (dB: number) => middle - clamp(dB / LINE_REACH, -1, 1) * half
  const [left, right] = [xOf(line, from), xOf(line, to)]
  context.strokeStyle = context.fillStyle = colour('tape')
  context.lineWidth = 1.8
  context.beginPath()
  // where it changes nothing it does not lie over the wave
  let before = 0
  for (let x = left; x <= right; x += 2) {
    const dB = lineAt(points, frameAt(line, x))
    if (dB === 0 && before === 0) context.moveTo(MARGIN + x, y(0))
    else context.lineTo(MARGIN + x, y(dB))
    before = dB
  }
  context.stroke()
  context.font = SMALL
  points.forEach(({ at, dB }, i) => {
    // the first and the last only say where the line ends
    if (at < line.from || at > line.to || ((i === 0 || i === points.length - 1) && dB === 0)) return
    context.beginPath()
    context.arc(MARGIN + xOf(line, at), y(dB), 2.6, 0, 2 * Math.PI)
    context.fill()
    const next = points[i + 1]
    if (dB !== 0 && next?.dB === dB)
      context.fillText(
        `${dB > 0 ? '+' : '−'}${Math.abs(dB)} dB`,
        MARGIN + (xOf(line, at) + xOf(line, Math.min(next.at, line.to))) / 2 - 14,
        y(dB) + (dB < 0 ? 13 : -6),
      )
  })
}
