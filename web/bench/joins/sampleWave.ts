import { keepPreviousData, useQuery } from '@tanstack/react-query'
import type { TapeFacts } from '../../../core/render/plan'
import { spectrogram } from '../../../core/sound/spectrogram'
import type { Frames } from '../../../core/time'
import { samples } from '../../sound/samples'
import { colour } from '../../ui/theme'

/** Waves drawn from the samples themselves, for what is looked at closely. */

/** The samples of a tape within `reach` frames of a place, which stands in the middle whatever the tape has before or after it. */
export function useSamplesAround(tape: TapeFacts, place: Frames, reach: Frames, enabled = true): Float32Array | undefined {
  return useQuery({
    queryKey: ['samples', tape.id, place, reach],
    enabled: enabled && tape.frames > 0,
    staleTime: Infinity,
    placeholderData: keepPreviousData,
    queryFn: async () => {
      const from = Math.max(0, place - reach)
      const found = await samples(tape, from, place + reach)
      const out = new Float32Array(2 * reach)
      out.set(found.subarray(0, out.length - (from - place + reach)), from - place + reach)
      return out
    },
  }).data
}

/** How high a wave may be drawn to either side of its middle, in pixels. */
const HIGH = 36

/** What is softer than this is not seen in a spectrum, and what is louder than that is all ink, in dB. */
const [SOFTEST, LOUDEST] = [-92, -38]
const CELL = { width: 2, height: 2 }

/** Draws the spectrum of samples from `offset` on, `per` frames a pixel, in a strip from `top` on. */
export function drawSpectrum(
  context: CanvasRenderingContext2D,
  all: Float32Array | null,
  offset: Frames,
  top: number,
  height: number,
  width: number,
  per: number,
): void {
  if (!all) return
  const [columns, rows] = [Math.ceil(width / CELL.width), Math.floor(height / CELL.height)]
  const levels = spectrogram(all, offset, per * CELL.width, columns, rows)
  context.fillStyle = colour('ink')
  for (let column = 0; column < columns; column++)
    for (let row = 0; row < rows; row++) {
      const shown = (levels[column * rows + row] - SOFTEST) / (LOUDEST - SOFTEST)
      if (shown <= 0.04) continue
      context.globalAlpha = Math.min(1, shown) ** 1.5
      context.fillRect(column * CELL.width, top + height - (row + 1) * CELL.height, CELL.width, CELL.height)
    }
  context.globalAlpha = 1
}

/**
 * Draws samples from `offset` on, `per` frames a pixel, in ink where `kept` says so and in grey beyond, `high` pixels to
 * either side of the middle.
 */
export function drawSamples(
  context: CanvasRenderingContext2D,
  all: Float32Array | null,
  offset: Frames,
  middle: number,
  width: number,
  per: number,
  scale: number,
  kept: (x: number) => boolean,
  high = HIGH,
): void {
  const ink = colour('ink')
  const grain = colour('grain')
  if (!all) {
    context.fillStyle = grain
    context.fillRect(0, middle, width, 1)
    return
  }
  let stroke = ''
  for (let x = 0; x < width; x++) {
    let low = 0
    let most = 0
    const from = Math.floor(offset + x * per)
    for (let i = from; i <= from + per && i < all.length; i++) {
      const sample = all[i] ?? 0
      if (i === from || sample < low) low = sample
      if (i === from || sample > most) most = sample
    }
    const colourNow = kept(x) ? ink : grain
    if (colourNow !== stroke) context.fillStyle = stroke = colourNow
    const top = middle - Math.min(high, most * scale * high)
    const bottom = middle - Math.max(-high, low * scale * high)
    context.fillRect(x, top, 1.2, Math.max(1.2, bottom - top))
  }
}

/** A canvas of a size in pixels of the page, empty and ready to be drawn on. */
export function cleared(canvas: HTMLCanvasElement, width: number, height: number): CanvasRenderingContext2D {
  canvas.width = Math.round(width * devicePixelRatio)
  canvas.height = Math.round(height * devicePixelRatio)
  const context = canvas.getContext('2d')!
  context.scale(devicePixelRatio, devicePixelRatio)
  context.clearRect(0, 0, width, height)
  return context
}

/** The slanting stroke of a cut. */
export function strokeCut(context: CanvasRenderingContext2D, [x0, y0]: [number, number], [x1, y1]: [number, number]): void {
  context.strokeStyle = colour('cut')
  context.lineWidth = 2.4
  context.lineCap = 'round'
  context.beginPath()
  context.moveTo(x0, y0)
  context.lineTo(x1, y1)
  context.stroke()
}
