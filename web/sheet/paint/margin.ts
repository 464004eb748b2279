import { minuteSecond } from '../../../core/time'
import { colour } from '../../ui/theme'
import { MARGIN, NAME, SMALL } from './metrics'
import { fitted, type Print } from './print'

/** When a line begins, and who begins to speak in it. */
export function printMargin(print: Print): void {
  const { context, model, line, middle } = print
  context.textAlign = 'right'
  context.fillStyle = colour('ink-faint')
  context.font = SMALL
  context.fillText(minuteSecond(line.from), MARGIN - 16, middle + 5)
  const speaker = speakerOf(print)
  if (!speaker) return
  context.font = NAME
  context.fillStyle = colour(model.second?.speakers.has(speaker) ? 'voice' : 'ink')
  context.fillText(fitted(context, speaker, MARGIN - 22), MARGIN - 16, middle - 11)
}

function speakerOf({ places, model, line }: Print): string {
  const first = places.firstWordFrom(line.from)
  const word = model.words[first]
  if (!word || word.at >= line.to) return ''
  const before = model.words[first - 1]
  return !before || before.speaker !== word.speaker ? word.speaker : ''
}
