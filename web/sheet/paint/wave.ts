import type { Line } from '../../../core/sheet/layout'
import type { Frames } from '../../../core/time'
import { MARGIN, WORD_DROP } from './metrics'
import type { Shade, SheetModel } from './model'
import type { Palette } from './palette'

/** An image in its own pixels. */
export interface Pixels {
  pixels: Uint32Array
  across: number
  down: number
}

/** One line of a Sheet whose wave is painted; `top` in pixels of the view, `scale` pixels of the image to one of those. */
export interface WaveLine {
  line: Line
  model: SheetModel
  top: number
  waveHeight: number
  scale: number
}

/** Paints the wave of a line, column by column; false where not all of its sound is known yet. */
export function paintWave(image: Pixels, { line, model, top, waveHeight, scale }: WaveLine, palette: Palette): boolean {
  const { selection, also = [], shades, original, second } = model
  const half = (waveHeight / 2) * scale
  const middle = Math.round((top + waveHeight / 2) * scale)
  const gain = model.scale * half
  const start = Math.round(MARGIN * scale)
  const count = Math.round(line.width * scale)
  const column = new Float64Array(3)
  const other = new Float64Array(3)
  let whole = true
  let run = 0
  let shade = firstShade(shades, line.from)
  let next = 0
  const edge = (x: number): Frames => {
    while (run < line.runs.length - 1 && line.runs[run].xEnd <= x) run++
    const { from, to, x: left, xEnd } = line.runs[run]
    return xEnd === left ? from : from + ((x - left) / (xEnd - left)) * (to - from)
  }
  let from = line.from
  for (let i = 0; i < count; i++) {
    const to = edge((i + 1) / scale)
    while (next < also.length && also[next].to <= from) next++
    const chosen = (selection !== null && from >= selection.from && from < selection.to) || (next < also.length && also[next].from <= from)
    while (shade < shades.length && shades[shade].to <= from) shade++
    const look = shade < shades.length && shades[shade].from <= from ? shades[shade].look : null
    const x = start + i
    if (chosen) bar(image, x, middle - half, middle + half, palette.wash)
    else if (look === 'gone' || look === 'muted')
      bar(image, x, middle - half - 5 * scale, middle + half + (WORD_DROP + 8) * scale, palette.low)
    if (original?.column(from, Math.max(to, from + 1), to - from, column))
      bar(
        image,
        x,
        middle - Math.min(half, column[1] * gain),
        middle - Math.max(-half, column[0] * gain) + 1,
        chosen ? palette.wash : look === 'muted' ? palette.grainLight : palette.low,
      )
    whole = model.wave.column(from, Math.max(to, from + 1), to - from, column) && whole
    const faded = look === 'gone' || look === 'struck'
    // whoever is the louder of two is the one that is seen
    if (second) second.wave.column(from, Math.max(to, from + 1), to - from, other)
    const theirs = second !== undefined && other[2] * gain > 1 && other[2] >= column[2] * 0.999
    const [dark, light] =
      chosen && !faded
        ? [palette.tape, palette.tapeLight]
        : faded || look === 'tone' || look === 'muted'
          ? [palette.grain, palette.grainLight]
          : theirs
            ? [palette.voice, palette.voiceLight]
            : [palette.ink, palette.inkLight]
    bar(image, x, middle - Math.min(half, column[1] * gain), middle - Math.max(-half, column[0] * gain) + 1, light)
    const body = Math.min(half, column[2] * gain)
    bar(image, x, middle - body, middle + body + 1, dark)
    from = to
  }
  return whole
}

/** A column of one colour, from `top` to `bottom`. */
function bar({ pixels, across, down }: Pixels, x: number, top: number, bottom: number, value: number): void {
  if (x < 0 || x >= across) return
  const end = Math.min(down, Math.round(bottom)) * across + x
  for (let at = Math.max(0, Math.round(top)) * across + x; at < end; at += across) pixels[at] = value
}

function firstShade(shades: readonly Shade[], frame: Frames): number {
  const found = shades.findIndex((shade) => shade.to > frame)
  return found < 0 ? shades.length : found
}
