import { xOf } from '../../../core/sheet/layout'
import { colour } from '../../ui/theme'
import { MARGIN, SMALL, WORD_DROP } from './metrics'
import type { Shade } from './model'
import type { Print } from './print'

/** What was said off the record, what is patched, and what is struck. */
export function printShades(print: Print): void {
  const { context, model, line, middle } = print
  context.lineCap = 'round'
  const here = model.shades.filter(({ from, to }) => to > line.from && from < line.to)
  for (const shade of here) if (shade.look === 'off') hatch(print, shade)
  for (const shade of here) if (shade.look === 'patch') patched(print, shade)
  for (const { look, from, to } of here) {
    if (look !== 'struck') continue
    context.strokeStyle = colour('cut')
    context.lineWidth = 1.6
    context.beginPath()
    context.moveTo(MARGIN + xOf(line, from), middle + 1.5)
    context.lineTo(MARGIN + xOf(line, to), middle - 1.5)
    context.stroke()
  }
}

/** A strip of splicing tape over what is patched. */
function patched({ context, line, top, waveHeight }: Print, { from, to }: Shade): void {
  const [left, right] = [MARGIN + xOf(line, Math.max(from, line.from)), MARGIN + xOf(line, Math.min(to, line.to))]
  context.fillStyle = colour('tape')
  context.globalAlpha = 0.16
  context.fillRect(left, top - 1, right - left, waveHeight + 2)
  context.globalAlpha = 1
  context.fillRect(left, top + waveHeight, right - left, 2)
}

/** Slanting strokes over what was said off the record, and what that means at its start. */
function hatch({ context, line, top, waveHeight }: Print, { from, to }: Shade): void {
  const [left, right] = [MARGIN + xOf(line, Math.max(from, line.from)), MARGIN + xOf(line, Math.min(to, line.to))]
  const height = waveHeight + WORD_DROP
  context.save()
  context.beginPath()
  context.rect(left, top - 4, right - left, height + 6)
  context.clip()
  context.strokeStyle = colour('cut')
  context.globalAlpha = 0.55
  context.lineWidth = 1
  context.beginPath()
  for (let x = left - height; x < right; x += 8) {
    context.moveTo(x, top + height)
    context.lineTo(x + height, top)
  }
  context.stroke()
  context.restore()
  if (from < line.from) return
  context.font = SMALL
  context.fillStyle = colour('cut-ink')
  context.fillText('off the record', left, top - 8)
}
