import { RATE, type Frames } from '../../core/time'

/** Seconds a line, of the steps in which a Sheet is zoomed: few, so that one knows where one is. */
const STEPS = [1, 2, 3.5, 5.5, 10, 20, 45, 120]

/**
 * The next step of zoom, in frames a line. Out goes as far as the whole of it on the screen (`whole`), whatever its
 * length, and no further; in as far as a second a line.
 */
export function zoomStep(now: Frames, by: 'in' | 'out', whole: Frames): Frames {
  const last = Math.max(RATE, whole)
  const steps = [...STEPS.map((seconds) => seconds * RATE).filter((step) => step < 0.95 * last), last]
  // a step that hardly differs from what is seen is none
  if (by === 'in') return steps.findLast((step) => step < 0.9 * now) ?? steps[0]
  return steps.find((step) => step > 1.1 * now) ?? last
}
