import { formatDistanceStrict } from 'date-fns'
import { useRef } from 'react'

/** Below this much progress nobody can say how long the rest takes. */
const KNOWN = 0.03

/** The time that is left of something, by how fast it went since it was first seen here. */
export function TimeLeft({ progress }: { progress: number }) {
  const began = useRef({ at: Date.now(), progress })
  const done = progress - began.current.progress
  if (progress >= 1) return <>nearly there</>
  if (done < KNOWN) return <>working out how long it takes …</>
  const left = ((Date.now() - began.current.at) * (1 - progress)) / done
  return <>{left < 1000 ? 'nearly there' : `${formatDistanceStrict(0, left)} left`}</>
}
