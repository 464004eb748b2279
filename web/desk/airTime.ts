import { differenceInMinutes, format, isToday, isTomorrow, isValid, parseISO } from 'date-fns'

/** Air times as a newsroom says them. They are local to the newsroom, and so to this machine. */

/** `17:52`, `tomorrow 07:30`, `Fri 4 Dec 17:52`; empty where none is set. */
export function airTime(airs: string): string {
  const at = parseISO(airs)
  if (!airs || !isValid(at)) return ''
  if (isToday(at)) return format(at, 'HH:mm')
  if (isTomorrow(at)) return `tomorrow ${format(at, 'HH:mm')}`
  return format(at, 'EEE d MMM HH:mm')
}

/** `in 1 h 04`, `in 12 min`, `4 min ago`; empty where it is more than a day away. */
export function untilAir(airs: string, now: Date): string {
  const at = parseISO(airs)
  if (!airs || !isValid(at)) return ''
  const minutes = differenceInMinutes(at, now, { roundingMethod: 'ceil' })
  const size = Math.abs(minutes)
  if (size >= 24 * 60) return ''
  const text = size < 60 ? `${size} min` : `${Math.floor(size / 60)} h ${String(size % 60).padStart(2, '0')}`
  return minutes >= 0 ? `in ${text}` : `${text} ago`
}
