import { useEffect, useState } from 'react'

/** The time of day, anew every few seconds, for what counts down. */
export function useNow(every = 5_000): Date {
  const [now, setNow] = useState(() => new Date())
  useEffect(() => {
    const timer = setInterval(() => setNow(new Date()), every)
    return () => clearInterval(timer)
  }, [every])
  return now
}
