import { xOf } from '../../../core/sheet/layout'
import { RATE, type Frames } from '../../../core/time'
import { colour } from '../../ui/theme'
import { FONT, ITALIC, MARGIN, SHORTEST_PAUSE, SMALL } from './metrics'
import type { Shade } from './model'
import type { Print } from './print'

/** The words under their sound; where they no longer fit, the starts of phrases. */
export const printWords = (print: Print): void => {
  print.context.textAlign = 'left'
  if (print.places.layout.bent) bentWords(print)
  else if (print.model.words.length) phraseStarts(print)
}

const struckAt = (shades: readonly Shade[], from: Frames, to: Frames): boolean =>
  shades.some((shade) => shade.look === 'struck' && Math.min(to, shade.to) - Math.max(from, shade.from) > (to - from) / 2)

function bentWords({ context, places, model, line, baseline }: Print): void {
  const { second } = model
  const ink = colour('ink')
  const voice = colour('voice')
  const soft = colour('ink-soft')
  const faint = colour('ink-faint')
  const cut = colour('cut')
  for (const run of line.runs) {
    if (run.token < 0) {
      printPause(context, run.to - run.from, run.x, run.xEnd, baseline)
      continue
    }
    const word = model.words[run.token]
    const plain = word.look === 'plain' && !struckAt(model.shades, word.at, word.end)
    context.font = word.look === 'plain' ? FONT : ITALIC
    context.fillStyle = !plain ? faint : second?.speakers.has(word.speaker) ? voice : word.trust === 'checked' ? ink : soft
    context.fillText(word.text, MARGIN + run.x, baseline)
    if (word.trust === 'unsure' && plain) underline(context, MARGIN + run.x, places.widthOf(word.text, false), baseline + 4)
    if (word.look === 'gone' || (!plain && word.look === 'plain')) {
      context.fillStyle = word.look === 'gone' ? faint : cut
      context.fillRect(MARGIN + run.x, baseline - 6, places.widthOf(word.text, word.look !== 'plain'), 1.2)
    }
  }
}

/** Dots under a word that nobody is sure of. */
function underline(context: CanvasRenderingContext2D, x: number, width: number, y: number): void {
  context.fillStyle = colour('ink-faint')
  for (let dot = x; dot < x + width - 1; dot += 4) context.fillRect(dot, y, 1.6, 1.6)
}

function printPause(context: CanvasRenderingContext2D, length: Frames, x: number, xEnd: number, baseline: number): void {
  if (length < SHORTEST_PAUSE || xEnd - x < 30 || context.canvas.width === 0) return
  const text = (length / RATE).toFixed(1)
  context.font = SMALL
  context.fillStyle = colour('ink-faint')
  context.fillText(text, MARGIN + (x + xEnd) / 2 - 10, baseline)
}

/** Where words no longer fit, the starts of phrases say where one is. */
function phraseStarts({ context, places, model, line, baseline, wordWidths }: Print): void {
  const { words, second } = model
  const ink = colour('ink')
  const faint = colour('ink-faint')
  context.font = FONT
  let free = 0
  let end = -1
  for (let i = places.firstWordFrom(line.from); i < words.length && words[i].at < line.to; i = end + 1) {
    end = i
    while (end < words.length - 1 && !words[end].phraseEnd) end++
    const x = xOf(line, words[i].at)
    if (x < free || (i > 0 && !words[i - 1].phraseEnd)) continue
    const next = end + 1 < words.length && words[end + 1].at < line.to ? xOf(line, words[end + 1].at) : places.lineWidth
    let text = ''
    let wide = 0
    for (let k = i; k <= end; k++) {
      const more = wordWidths[k].width
      if (x + wide + more > next - 8) break
      text = text ? `${text} ${words[k].text}` : words[k].text
      wide += more
    }
    if (!text) continue
    context.fillStyle = words[i].look !== 'plain' ? faint : second?.speakers.has(words[i].speaker) ? colour('voice') : ink
    context.fillText(text, MARGIN + x, baseline)
    free = x + wide + 12
  }
}
