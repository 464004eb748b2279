import type { CSSProperties } from 'react'
import { RATE, type Frames } from '../../../core/time'

/**
 * The style of a row (of the class `tall`) that is as tall as it is long, by the page's `--second`; time between it and the row before
 * is room on the page too. What is zoomed changes no row then, but their style.
 */
export const tall = (words: Frames, gap: Frames = 0): CSSProperties =>
  ({ '--long': (words / RATE).toFixed(3), '--room': (Math.max(0, gap) / RATE).toFixed(3) }) as CSSProperties

/** A row is this much taller than its time asks for, in pixels, as web/style.css says. */
export const ROOM = 12

/** How tall a second is, in pixels, where an element of a row lies. */
export const secondOf = (element: Element): number => parseFloat(getComputedStyle(element.closest('.tall')!).getPropertyValue('--second'))
