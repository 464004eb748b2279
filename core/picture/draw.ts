import { CAPTION_LINE, MARGIN, type Area, type Sheet } from './shapes'

/** Draws a picture for online; the browser that shows it beforehand and the server that films it draw with the same strokes. */

/** What is drawn with: a two-dimensional context of a canvas. */
export type Brush = Pick<
  CanvasRenderingContext2D,
  'fillStyle' | 'font' | 'textAlign' | 'textBaseline' | 'globalAlpha' | 'fillRect' | 'fillText' | 'measureText' | 'clearRect'
>

/** Puts a still image so that it fills an area, its middle in the middle. */
export type PutStill = (area: Area) => void

export interface Told {
  title: string
  /** For whom it is made, or who speaks. */
  from: string
  /** The highest sample, 0 to 1, of each of equal parts of the sound. */
  wave: readonly number[]
}

export const SERIF = 'Literata Variable'
export const SANS = 'Public Sans Variable'

const PAPER = '#faf6ec'
const PAPER_LOW = '#e9dfc8'
const INK = '#1d1b18'
const SOFT = '#575147'
const TAPE = '#0f6b6b'
const PENCIL = '#d9381e'

const BAR = 6
const BETWEEN = 3

/** All that stands still: the image, the title and the whole wave. */
export function drawSheet(brush: Brush, sheet: Sheet, { title, from, wave }: Told, putStill: PutStill | null): void {
  const { width, height, still } = sheet
  fill(brush, PAPER, { x: 0, y: 0, width, height })
  if (putStill) putStill(still)
  else drawTitlePage(brush, still, title)
  drawHeading(brush, sheet, putStill ? title : '', from)
  drawWave(brush, sheet.wave, wave)
}

/** What stands where there is no image. */
function drawTitlePage(brush: Brush, area: Area, title: string): void {
  fill(brush, PAPER_LOW, area)
  fill(brush, PENCIL, { x: MARGIN, y: area.y + area.height / 2 - 120, width: 12, height: 240 })
  const lines = inLines(brush, title, area.width - 2 * MARGIN - 60, [120, 96, 76, 60, 48], SERIF, 700, 2)
  const size = lines.size * 1.16
  brush.fillStyle = INK
  brush.textAlign = 'left'
  brush.textBaseline = 'middle'
  lines.text.forEach((line, i) => brush.fillText(line, MARGIN + 52, area.y + area.height / 2 + (i - (lines.text.length - 1) / 2) * size))
}

function drawHeading(brush: Brush, { title: area }: Sheet, title: string, from: string): void {
  const middle = area.y + area.height / 2 + 8
  brush.textBaseline = 'middle'
  brush.font = `600 32px "${SANS}"`
  const room = from ? brush.measureText(from).width + 48 : 0
  brush.fillStyle = SOFT
  brush.textAlign = title ? 'right' : 'left'
  brush.fillText(from, title ? area.x + area.width : area.x, middle, area.width)
  if (!title) return
  const { text, size } = inLines(brush, title, area.width - room, [54, 46, 38, 32], SERIF, 700, 1)
  brush.font = `700 ${size}px "${SERIF}"`
  brush.fillStyle = INK
  brush.textAlign = 'left'
  brush.fillText(text[0], area.x, middle, area.width - room)
}

function drawWave(brush: Brush, { x, y, width, height }: Area, wave: readonly number[]): void {
  const count = Math.floor(width / (BAR + BETWEEN))
  const top = Math.max(0.02, ...wave)
  brush.fillStyle = TAPE
  for (let i = 0; i < count; i++) {
    const [first, last] = [Math.floor((i * wave.length) / count), Math.ceil(((i + 1) * wave.length) / count)]
    const level = Math.max(0, ...wave.slice(first, last)) / top
    const tall = Math.max(4, level * (height - 36))
    brush.fillRect(x + i * (BAR + BETWEEN), y + (height - tall) / 2, BAR, tall)
  }
}

/** What lies over the part of the wave that is still to come; the pencil's stroke at its left edge is where one is. Slid to the right. */
export function drawVeil(brush: Brush, { width, height }: Area): void {
  brush.clearRect(0, 0, width, height)
  brush.globalAlpha = 0.72
  fill(brush, PAPER, { x: 0, y: 0, width, height })
  brush.globalAlpha = 1
  fill(brush, PENCIL, { x: 0, y: 0, width: 5, height })
}

/** The lines of a caption, on their own area: at its left upper corner is the canvas's. */
export function drawCaption(brush: Brush, { width, height }: Area, lines: readonly string[]): void {
  fill(brush, PAPER, { x: 0, y: 0, width, height })
  brush.fillStyle = INK
  brush.font = `500 ${Math.min(52, Math.floor((width - 2 * MARGIN) / 19))}px "${SANS}"`
  brush.textAlign = 'center'
  brush.textBaseline = 'middle'
  lines.forEach((line, i) => brush.fillText(line, width / 2, height / 2 + (i - (lines.length - 1) / 2) * CAPTION_LINE, width - 2 * MARGIN))
}

function fill(brush: Brush, colour: string, { x, y, width, height }: Area): void {
  brush.fillStyle = colour
  brush.fillRect(x, y, width, height)
}

/** Text in as few lines as may be, in the largest size in which it fits; cut short with an ellipsis in the smallest. Sets the font. */
function inLines(
  brush: Brush,
  text: string,
  width: number,
  sizes: readonly number[],
  family: string,
  weight: number,
  most: number,
): { text: string[]; size: number } {
  const fits = (line: string) => brush.measureText(line).width <= width
  for (const size of sizes) {
    brush.font = `${weight} ${size}px "${family}"`
    const lines = wrapped(text, fits)
    if (lines.length <= most && lines.every(fits)) return { text: lines, size }
  }
  const lines = wrapped(text, fits)
  let last = lines.slice(most - 1).join(' ')
  while (last.length > 1 && !fits(`${last}…`)) last = last.slice(0, -1)
  return { text: [...lines.slice(0, most - 1), `${last.trimEnd()}…`], size: sizes[sizes.length - 1] }
}

function wrapped(text: string, fits: (line: string) => boolean): string[] {
  const lines = ['']
  for (const word of text.split(/\s+/)) {
    const longer = `${lines[lines.length - 1]} ${word}`.trim()
    if (fits(longer) || lines[lines.length - 1] === '') lines[lines.length - 1] = longer
    else lines.push(word)
  }
  return lines
}
