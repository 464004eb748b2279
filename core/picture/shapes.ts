/** A picture for online: so many pixels, and what lies where on it. */

export const SHAPES = ['wide', 'square', 'upright'] as const
export type Shape = (typeof SHAPES)[number]

export interface Area {
  x: number
  y: number
  width: number
  height: number
}

export interface Sheet {
  width: number
  height: number
  /** The still image, or what stands for it. */
  still: Area
  title: Area
  caption: Area
  /** From edge to edge. */
  wave: Area
}

/** Room at the edges, and the height of a line of captions, in pixels. */
export const MARGIN = 64
export const CAPTION_LINE = 66

const sheet = (width: number, height: number, still: number, title: number): Sheet => {
  const wave = 150
  return {
    width,
    height,
    still: { x: 0, y: 0, width, height: still },
    title: { x: MARGIN, y: still, width: width - 2 * MARGIN, height: title },
    caption: { x: 0, y: still + title, width, height: height - still - title - wave },
    wave: { x: 0, y: height - wave, width, height: wave },
  }
}

/** 16 to 9, 1 to 1, 9 to 16; in the pixels that are usual for them. */
export const SHEETS: Record<Shape, Sheet> = {
  wide: sheet(1920, 1080, 624, 112),
  square: sheet(1080, 1080, 568, 124),
  upright: sheet(1080, 1920, 1240, 150),
}

/** The part of an image, in its pixels, that fills an area without being bent: its middle. */
export function coverOf(image: { width: number; height: number }, area: Area): Area {
  const scale = Math.max(area.width / image.width, area.height / image.height)
  const [width, height] = [area.width / scale, area.height / scale]
  return { x: (image.width - width) / 2, y: (image.height - height) / 2, width, height }
}
