import { RATE, type Frames } from '../../core/time'
import type { Run } from './clipSound'

export const leftOf = ({ at }: Pick<Run, 'at'>, length: Frames): Frames => Math.max(0, length - at)

/** `:07`, `1:12`: whole seconds, so that the last one is read as 1 until it is over. */
export function short(frames: Frames): string {
  const seconds = wholeSeconds(frames)
  return `${seconds >= 60 ? Math.floor(seconds / 60) : ''}:${String(seconds % 60).padStart(2, '0')}`
}

/** The seconds that are left, where they are the last ones: as many marks stand as are left. */
export const LAST = 5
export function lastSeconds(frames: Frames): number | null {
  const seconds = wholeSeconds(frames)
  return seconds <= LAST ? seconds : null
}

const wholeSeconds = (frames: Frames): number => Math.max(0, Math.ceil(frames / RATE - 1e-6))
