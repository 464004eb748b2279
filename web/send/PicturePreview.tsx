import { useEffect, useEffectEvent, useRef, useState } from 'react'
import type { PictureOrder } from '../../contract/pictures'
import { drawCaption, drawSheet, drawVeil, SANS, SERIF } from '../../core/picture/draw'
import { coverOf, SHEETS } from '../../core/picture/shapes'

/** What a picture is drawn from, as far as it is known yet. */
export interface Shown {
  title: string
  from: string
  wave?: readonly number[]
}

/** So far through the sound. */
const AT = 0.3
/** No larger than this on the screen, in CSS pixels. */
const MOST = { width: 256, height: 200 }

/** A picture of the film, drawn with the strokes that the film is drawn with. */
export function PicturePreview({
  picture: { shape, still, captions },
  shown: { title, from, wave },
  onGone,
}: {
  picture: PictureOrder
  shown: Shown
  /** The still image is not there any more. */
  onGone: () => void
}) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const image = useImage(still, onGone)
  const fonts = useFonts()
  const sheet = SHEETS[shape]
  const scale = Math.min(MOST.width / sheet.width, MOST.height / sheet.height)
  useEffect(() => {
    const context = canvas.current?.getContext('2d')
    if (!context || !fonts) return
    const told = { title, from, wave: wave ?? [] }
    drawSheet(context, sheet, told, image && ((area) => putImage(context, image, area)))
    const { caption, wave: band } = sheet
    if (captions)
      context.drawImage(
        drawn(caption, (brush) => drawCaption(brush, caption, CAPTION)),
        caption.x,
        caption.y,
      )
    context.drawImage(
      drawn(band, (brush) => drawVeil(brush, band)),
      AT * sheet.width,
      band.y,
    )
  }, [sheet, title, from, wave, image, captions, fonts])
  return (
    <canvas
      ref={canvas}
      width={sheet.width}
      height={sheet.height}
      role="img"
      aria-label="The picture, as it will look"
      className="rounded border border-rule shadow-sm"
      style={{ width: scale * sheet.width, height: scale * sheet.height }}
    />
  )
}

const CAPTION = ['What is said stands here,', 'as it is said']

function drawn({ width, height }: { width: number; height: number }, draw: (brush: CanvasRenderingContext2D) => void): HTMLCanvasElement {
  const canvas = document.createElement('canvas')
  Object.assign(canvas, { width, height })
  draw(canvas.getContext('2d')!)
  return canvas
}

function putImage(brush: CanvasRenderingContext2D, image: HTMLImageElement, area: Parameters<typeof coverOf>[1]): void {
  const part = coverOf(image, area)
  brush.drawImage(image, part.x, part.y, part.width, part.height, area.x, area.y, area.width, area.height)
}

function useImage(still: string | undefined, onGone: () => void): HTMLImageElement | null {
  const gone = useEffectEvent(onGone)
  const [image, setImage] = useState<HTMLImageElement | null>(null)
  useEffect(() => {
    setImage(null)
    if (!still) return
    const coming = new Image()
    coming.src = `/api/stills/${still}`
    void coming.decode().then(
      () => setImage(coming),
      () => void fetch(coming.src, { method: 'HEAD' }).then(({ status }) => status === 404 && gone()),
    )
  }, [still])
  return image
}

/** Whether what is written can be drawn in its own fonts. */
function useFonts(): boolean {
  const [there, setThere] = useState(false)
  useEffect(() => void Promise.all([SERIF, SANS].map((name) => document.fonts.load(`600 40px "${name}"`))).then(() => setThere(true)), [])
  return there
}
