import { addMilliseconds, differenceInMinutes, format, isToday, isTomorrow, isValid, parseISO } from 'date-fns'
import { parseTimeOfDay } from '../../core/typed'

/**
 * Air times as a newsroom says them. They are kept with the zone in which they were set, and shown in
 * the zone of the machine that shows them; where that is another, it is said.
 */

const stored = (airs: string): Date | null => {
  const at = parseISO(airs)
  return airs && isValid(at) ? at : null
}

/** `17:52`, `tomorrow 07:30`, `Fri 4 Dec 17:52`; empty where none is set. With its zone where it was set in another. */
export function airTime(airs: string): string {
  const at = stored(airs)
  if (!at) return ''
  const day = isToday(at) ? '' : isTomorrow(at) ? 'tomorrow ' : `${format(at, 'EEE d MMM')} `
  const elsewhere = /[+-]\d\d:\d\d$/.test(airs) && !airs.endsWith(format(at, 'xxx'))
  return `${day}${format(at, 'HH:mm')}${elsewhere ? ` ${format(at, 'O')}` : ''}`
}

/** `Saturday 28 November 2026, 17:52 GMT+1`, for paper, which may be read anywhere. */
export const airTimeInFull = (airs: string): string => {
  const at = stored(airs)
  return at ? format(at, 'EEEE d MMMM yyyy, HH:mm O') : ''
}

/** `in 1 h 04`, `in 12 min`, `4 min ago`; empty where it is more than a day away. */
export function untilAir(airs: string, now: Date): string {
  const at = stored(airs)
  if (!at) return ''
  const minutes = differenceInMinutes(at, now, { roundingMethod: 'ceil' })
  const size = Math.abs(minutes)
  if (size >= 24 * 60) return ''
  const text = size < 60 ? `${size} min` : `${Math.floor(size / 60)} h ${String(size % 60).padStart(2, '0')}`
  return minutes >= 0 ? `in ${text}` : `${text} ago`
}

/** `17:53:20`: the time of day so many milliseconds after an air time; null where none is set. */
export function timeOfDayAfter(airs: string, ms: number): string | null {
  const at = stored(airs)
  return at && format(addMilliseconds(at, ms), 'HH:mm:ss')
}

/** The day and the time as they stand in fields: `2026-11-25` and `17:52`. */
export const airDay = (airs: string): string => field(airs, 'yyyy-MM-dd')
export const airClock = (airs: string): string => field(airs, 'HH:mm')

function field(airs: string, as: string): string {
  const at = stored(airs)
  return at ? format(at, as) : ''
}

/** An air time from what was typed, with this machine's zone; empty where nothing was. What is missing or cannot be read is said. */
export function typedAirTime({ day, time }: { day: string; time: string }): { airs: string } | { wrong: string } {
  if (!day && !time.trim()) return { airs: '' }
  if (!time.trim()) return { wrong: 'The time is missing.' }
  const clock = parseTimeOfDay(time)
  if (!clock) return { wrong: `“${time.trim().slice(0, 40)}” is not a time of day. Type it as 18:20 or 1820.` }
  if (!day) return { wrong: 'The day is missing.' }
  return { airs: format(parseISO(`${day}T${clock}`), "yyyy-MM-dd'T'HH:mmxxx") }
}
