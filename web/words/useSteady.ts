import { useRef } from 'react'

/** Of what is foretold anew, so much counts at once. */
const NEW = 0.25
/** Told in steps of so much, in seconds: a minute and more in tens. */
const stepOf = (seconds: number): number => (seconds < 20 ? 1 : seconds < 60 ? 5 : 10)

/**
 * Seconds that are left of something, told steadily: what is foretold each time is worked into what was said before, less
 * the time since. Null where nobody knows.
 */
export function useSteady(left: number | null): number | null {
  const said = useRef<{ left: number; at: number } | null>(null)
  if (left === null) {
    said.current = null
    return null
  }
  const now = Date.now()
  if (!said.current) said.current = { left, at: now }
  else if (now - said.current.at > 500) {
    const expected = Math.max(0, said.current.left - (now - said.current.at) / 1000)
    said.current = { left: expected + NEW * (left - expected), at: now }
  }
  const { left: seconds } = said.current
  return Math.round(seconds / stepOf(seconds)) * stepOf(seconds)
}
