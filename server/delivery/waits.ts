/** How long it is tried where there is no air time, or none that is still to come. */
const LONG_MS = 60 * 60_000
const MOST_MS = 60_000

/**
 * When a delivery that failed so many times is tried next, in milliseconds since 1970: after 2, 4, 8 … seconds, a minute at
 * the most, and once more right before the end; null where it is given up. `until`: the air time, null where none is to come.
 */
export function nextTry(now: number, tries: number, begun: number, until: number | null): number | null {
  const end = until ?? begun + LONG_MS
  const wait = Math.min(MOST_MS, 1000 * 2 ** Math.min(tries, 10))
  if (now >= end) return null
  return Math.min(now + wait, end)
}
