import { toFrames, type Frames } from './time'

/** Lengths, times of day and figures as people type them. */

/** More minutes than this are not meant by a number alone: it is seconds. */
const MINUTES_AT_MOST = 9

/**
 * A length: `3:30`, `3.30`, `3'30`, `3m30`, `3 min 30 s`, `:45`, `1:02:03` and `210` (seconds); a single
 * digit is minutes. Null where it cannot be read.
 */
export function parseLength(text: string): Frames | null {
  const plain = text
    .trim()
    .toLowerCase()
    .replace(/[’′`]/g, "'")
    .replace(/[”″"]$|''$/, '')
    .replace(/\s*(?:sec(?:onds?)?|s)\.?$/, 's')
  const alone = /^(\d{1,5})(s?)$/.exec(plain)
  if (alone) {
    const count = Number(alone[1])
    return toFrames(!alone[2] && count <= MINUTES_AT_MOST ? count * 60 : count)
  }
  const minutesAlone = /^(\d{1,3})\s*(?:m|min|minutes?|')$/.exec(plain)
  if (minutesAlone) return toFrames(Number(minutesAlone[1]) * 60)
  const parts = /^(?:(\d{1,2})[:.])?(\d{0,3})\s*(?:[:.']|m|min|minutes?)\s*(\d{2})s?(?:[.,](\d))?$/.exec(plain)
  if (!parts) return null
  const [, hours, minutes, seconds, tenth] = parts
  if (Number(seconds) > 59 || (hours && Number(minutes) > 59)) return null
  return toFrames(Number(hours ?? 0) * 3600 + Number(minutes || 0) * 60 + Number(seconds) + Number(tenth ?? 0) / 10)
}

/** A time of day as `18:20`: from `18:20`, `1820`, `18.20`, `18h20`, `6:20 pm`, `6pm`. Null where it cannot be read. */
export function parseTimeOfDay(text: string): string | null {
  const parts = /^(\d{1,2})(?:[:.h]?(\d{2}))?\s*([ap])?\.?m?\.?$/.exec(text.trim().toLowerCase())
  if (!parts) return null
  const [, typed, minutes = '00', half] = parts
  // a number alone is no time: it could be minutes as well
  if (!parts[2] && !half) return null
  const hour = Number(typed)
  if (half && (hour < 1 || hour > 12)) return null
  const hours = half ? (hour % 12) + (half === 'p' ? 12 : 0) : hour
  return hours < 24 && Number(minutes) < 60 ? `${String(hours).padStart(2, '0')}:${minutes}` : null
}

/** A plain figure: `0.35`, `-9`, `−9,5`, with a point or a comma. Null where it cannot be read. */
export function parseFigure(text: string): number | null {
  const plain = text.trim().replace('−', '-').replace(',', '.')
  const value = Number(plain)
  return plain && Number.isFinite(value) ? value : null
}

/** A place between left (−1) and right (1): `30 left`, `L30`, `-30`, `right`, `middle`, `0`. Null where it cannot be read. */
export function parsePan(text: string): number | null {
  const plain = text.trim().toLowerCase().replace('−', '-')
  if (/^(middle|centre|center|m|c)$/.test(plain)) return 0
  const parts = /^(l|left|r|right)?\s*(-?\d{1,3})?\s*%?\s*(l|left|r|right)?$/.exec(plain)
  if (!parts || !plain) return null
  const [, first, figure, last] = parts
  const side = (first ?? last)?.[0]
  const value = Number(figure ?? 100)
  if (Math.abs(value) > 100 || (first && last) || (side && value < 0) || (!side && figure === undefined)) return null
  return value ? (side === 'l' ? -value : value) / 100 : 0
}

/** A place between left and right as it is written. */
export const panText = (to: number): string => {
  const figure = Math.round(Math.abs(to) * 100)
  return figure ? `${figure} ${to < 0 ? 'left' : 'right'}` : 'middle'
}
