import { milliseconds, RATE, type Frames } from '../time'

/** What is said in a file as captions that are timed to it, and as text. */

/** A word in the file; times in its frames at 48 kHz. */
export interface Timed {
  text: string
  from: Frames
  to: Frames
  speaker: string
}

export interface Caption {
  from: Frames
  to: Frames
  speaker: string
  /** One line or two. */
  lines: string[]
}

/** Letters a line, and how long a caption stands (BBC subtitle guidelines: 37 letters, two lines). */
const WIDTH = 37
const LONGEST: Frames = 6 * RATE
const SHORTEST: Frames = RATE
/** A pause so long ends a caption. */
const PAUSE: Frames = milliseconds(700)
/** A caption stands on for so long, where the next one leaves it the time. */
const STANDS: Frames = milliseconds(400)

const endsSentence = (text: string): boolean => /[.?!…]["”’)]*$/.test(text)

/** Captions of words in order: a new one at a pause, at another speaker, after a sentence that fills half a line, and when it is full. */
export function captionsOf(words: readonly Timed[]): Caption[] {
  const groups: Timed[][] = []
  for (const word of words) {
    const group = groups[groups.length - 1]
    if (group && goesOn(group, word)) group.push(word)
    else groups.push([word])
  }
  return groups.map((group, i) => {
    const from = group[0].from
    const end = Math.max(group[group.length - 1].to + STANDS, from + SHORTEST)
    const next = groups[i + 1]?.[0].from ?? Infinity
    return { from, to: Math.max(from + 1, Math.min(end, next)), speaker: group[0].speaker, lines: inLines(group.map(({ text }) => text)) }
  })
}

function goesOn(group: readonly Timed[], word: Timed): boolean {
  const last = group[group.length - 1]
  const text = group.map((one) => one.text).join(' ')
  if (word.speaker !== last.speaker || word.from - last.to >= PAUSE || word.to - group[0].from > LONGEST) return false
  if (endsSentence(last.text) && text.length > WIDTH / 2) return false
  return inLines([...group.map((one) => one.text), word.text]).length <= 2
}

/** Words in lines of up to `WIDTH` letters; two lines about equally long. */
function inLines(words: readonly string[]): string[] {
  const whole = words.join(' ')
  if (whole.length <= WIDTH) return [whole]
  const splits = words.slice(1).map((_, i) => [words.slice(0, i + 1).join(' '), words.slice(i + 1).join(' ')])
  const fits = splits.filter((lines) => lines.every((line) => line.length <= WIDTH))
  if (!fits.length) return [...inLines(words.slice(0, -1)), words[words.length - 1]]
  const uneven = ([above, below]: string[]) => Math.abs(above.length - below.length)
  return fits.reduce((best, lines) => (uneven(lines) < uneven(best) ? lines : best))
}

/** `00:01:02,345`, with the mark before the thousandths that the format wants. */
function stamp(frames: Frames, mark: ',' | '.'): string {
  const ms = Math.round((frames * 1000) / RATE)
  const two = (value: number) => String(Math.floor(value)).padStart(2, '0')
  return `${two(ms / 3_600_000)}:${two((ms / 60_000) % 60)}:${two((ms / 1000) % 60)}${mark}${String(ms % 1000).padStart(3, '0')}`
}

/** SubRip. */
export const srt = (captions: readonly Caption[]): string =>
  captions.map(({ from, to, lines }, i) => `${i + 1}\n${stamp(from, ',')} --> ${stamp(to, ',')}\n${lines.join('\n')}\n`).join('\n')

const escaped = (text: string): string => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;')

/** WebVTT (W3C), with who speaks. */
export const webVtt = (captions: readonly Caption[]): string =>
  [
    'WEBVTT\n',
    ...captions.map(({ from, to, speaker, lines }) => {
      const text = lines.map(escaped).join('\n')
      return `${stamp(from, '.')} --> ${stamp(to, '.')}\n${speaker ? `<v ${escaped(speaker)}>` : ''}${text}\n`
    }),
  ].join('\n')

/** Plain text: a paragraph a turn, with who speaks before it. */
export function plainText(words: readonly Timed[]): string {
  const turns: { speaker: string; words: string[] }[] = []
  for (const { speaker, text } of words) {
    const turn = turns[turns.length - 1]
    if (turn?.speaker === speaker) turn.words.push(text)
    else turns.push({ speaker, words: [text] })
  }
  return turns.map((turn) => `${turn.speaker ? `${turn.speaker}: ` : ''}${turn.words.join(' ')}\n`).join('\n')
}
