import { RATE, type Frames } from '../../core/time'
import { WAVE_HEIGHTS, type SheetLook } from './paint/model'

/** A line of less than this is so wide that it is no easier to read, and as much as this is the usual. In frames. */
const LEAST = 2.4 * RATE
/** Words take more room than their time now and then. */
const SPARE = 1.06
/** Of the height so much at most. */
const SHARE = 0.92

/**
 * A look at something short in which its lines fill the height: as many of them as there is room for, all about equally
 * long, and as tall as they can be. `beside`: what a line takes besides its wave, in pixels. What is long stays as it is.
 */
export function filling(look: SheetLook, length: Frames, height: number, beside: number): SheetLook {
  const room = height * SHARE
  const lines = Math.ceil(length / look.framesPerLine)
  if (!length || lines * (look.waveHeight + beside) > room) return look
  const most = Math.floor(room / (WAVE_HEIGHTS[1] + beside))
  const count = Math.max(1, Math.min(most, Math.ceil(length / LEAST)))
  const tallest = WAVE_HEIGHTS.findLast((tall) => count * (tall + beside) <= room) ?? look.waveHeight
  return { ...look, framesPerLine: Math.max(RATE, Math.ceil((length * SPARE) / count)), waveHeight: Math.max(look.waveHeight, tallest) }
}
