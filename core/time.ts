/** One clock for all: frames at 48 kHz, whole numbers. Seconds are for people. */

/** Frames a second. */
export const RATE = 48_000

/** A place or a length in frames at 48 kHz; always a whole number. */
export type Frames = number

/** A stretch of frames, `from` included, `to` not. */
export interface Stretch {
  from: Frames
  to: Frames
}

export const toFrames = (seconds: number): Frames => Math.round(seconds * RATE)
export const milliseconds = (ms: number): Frames => Math.round((ms * RATE) / 1000)

/** `m:ss.t`, as places in time are shown. Rounds to the nearest tenth of a second. */
export function clock(frames: Frames): string {
  const tenths = Math.round((Math.abs(frames) * 10) / RATE)
  const minutes = Math.floor(tenths / 600)
  const rest = tenths - minutes * 600
  const sign = frames < 0 && tenths > 0 ? '−' : ''
  return `${sign}${minutes}:${String(Math.floor(rest / 10)).padStart(2, '0')}.${rest % 10}`
}

/** `m:ss`, for the margin of a Sheet. Rounds down, as a clock on a wall does. */
export function minuteSecond(frames: Frames): string {
  const seconds = Math.floor(frames / RATE)
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`
}

/** `:09` or `1:05`, as the trade writes the length of an actuality. Rounds to the nearest second. */
export function tradeLength(frames: Frames): string {
  const seconds = Math.round(frames / RATE)
  const minutes = Math.floor(seconds / 60)
  return `${minutes || ''}:${String(seconds % 60).padStart(2, '0')}`
}

/** `0.4`, the seconds of a pause or of what was taken out; under a tenth with two places, so that what is there never reads as nothing. */
export const inSeconds = (frames: Frames): string =>
  frames > 0 && frames < RATE / 10 ? (Math.max(frames, RATE / 100) / RATE).toFixed(2) : (frames / RATE).toFixed(1)

/** Frames for `1:02.5`, `:09`, `62.5` or `1:02:03`; null where the text is no time. */
export function parseTime(text: string): Frames | null {
  const match = /^\s*(?:(?:(\d+):)?(\d*):)?(\d+(?:[.,]\d*)?)\s*$/.exec(text)
  if (!match) return null
  const [, hours, minutes, seconds] = match
  return toFrames(Number(hours ?? 0) * 3600 + Number(minutes || 0) * 60 + Number(seconds.replace(',', '.')))
}

export const clamp = (value: number, low: number, high: number): number => Math.min(high, Math.max(low, value))
