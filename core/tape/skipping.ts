import type { Frames, Stretch } from '../time'

/** Places on a tape, and in what is left of it where struck stretches are skipped. `parts` are what is left, in order. */

/** How much of the parts lies before a frame of the tape: its place in what is left. */
export const keptBefore = (parts: readonly Stretch[], frame: Frames): Frames =>
  parts.reduce((sum, part) => sum + Math.max(0, Math.min(part.to, frame) - part.from), 0)

/** The frame of the tape at a place in what is left; the end of the last part past all of it. */
export function frameOf(parts: readonly Stretch[], position: Frames): Frames {
  let left = position
  for (const part of parts) {
    if (left < part.to - part.from) return part.from + left
    left -= part.to - part.from
  }
  return parts.at(-1)?.to ?? 0
}
