import { xOf } from '../../../core/sheet/layout'
import { colour } from '../../ui/theme'
import { MARGIN, SMALL } from './metrics'
import type { SheetFound } from './model'
import type { Print } from './print'

/** How far a bracket's feet reach, and a ring beyond its word. */
const FOOT = 6
const ROUND = 5
/** How high letters stand above their baseline, with the ring around them. */
const LETTERS = 9
const RING = 13

/** What was found and is not decided on: ringed or bracketed as with a pencil. */
export function printFound(print: Print): void {
  const { model, line } = print
  for (const one of model.found ?? []) {
    if (one.to <= line.from || one.from >= line.to) continue
    if (one.look === 'bracket') bracket(print, one)
    else ring(print, one)
  }
}

const span = ({ line }: Print, from: number, to: number): [left: number, right: number] => [
  MARGIN + xOf(line, Math.max(from, line.from)),
  MARGIN + xOf(line, Math.min(to, line.to)),
]

function bracket(print: Print, { from, to, goes, text }: SheetFound): void {
  const chosen = text !== null
  const { context, line, top, waveHeight, baseline } = print
  const [left, right] = span(print, goes.from, goes.to)
  if (right > left) {
    context.fillStyle = colour('cut')
    context.globalAlpha = chosen ? 0.24 : 0.12
    context.fillRect(left, top, right - left, waveHeight)
    context.globalAlpha = 1
  }
  context.strokeStyle = colour(chosen ? 'cut' : 'ink-soft')
  context.lineWidth = chosen ? 1.8 : 1.2
  for (const [edge, inwards] of [
    [from, 1],
    [to, -1],
  ] as const) {
    if (edge < line.from || edge > line.to) continue
    const x = MARGIN + xOf(line, edge)
    context.beginPath()
    context.moveTo(x + inwards * FOOT, top)
    context.lineTo(x, top)
    context.lineTo(x, top + waveHeight)
    context.lineTo(x + inwards * FOOT, top + waveHeight)
    context.stroke()
  }
  if (!chosen || from < line.from) return
  const [start, end] = span(print, from, to)
  context.font = SMALL
  context.textAlign = 'center'
  // over the figure that stands there anyway
  const half = context.measureText(text).width / 2 + 2
  context.fillStyle = colour('paper')
  context.fillRect((start + end) / 2 - half, baseline - LETTERS - 4, 2 * half, LETTERS + 8)
  context.fillStyle = colour('cut-ink')
  context.fillText(text, (start + end) / 2, baseline)
  context.textAlign = 'left'
}

/** Around the words where they are printed, else around their sound. */
function ring(print: Print, { from, to, text }: SheetFound): void {
  const chosen = text !== null
  const { context, places, model, top, middle, waveHeight, baseline } = print
  const [left, right] = span(print, from, to)
  const onWords = places.layout.bent && model.words.length > 0
  context.strokeStyle = colour('cut')
  context.globalAlpha = chosen ? 1 : 0.6
  context.lineWidth = chosen ? 2.2 : 1.3
  context.beginPath()
  const y = onWords ? baseline - LETTERS / 2 - 1 : middle
  const high = onWords ? RING : waveHeight / 2
  context.ellipse((left + right) / 2, y, (right - left) / 2 + ROUND, high, -0.01, 0, 2 * Math.PI)
  context.stroke()
  context.globalAlpha = 1
  if (!chosen || !onWords) return
  context.fillStyle = colour('cut')
  context.globalAlpha = 0.12
  context.fillRect(left, top, right - left, waveHeight)
  context.globalAlpha = 1
}
