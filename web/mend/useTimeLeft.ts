import { formatDuration } from 'date-fns'
import { useEffect, useState } from 'react'

/** How long something will still take, told by how far it came since it was first seen; empty while nobody knows. */
export function useTimeLeft(progress: number | null): string {
  const [begun, setBegun] = useState<{ at: number; progress: number } | null>(null)
  const [left, setLeft] = useState('')
  useEffect(() => {
    if (progress === null) {
      setBegun(null)
      setLeft('')
    } else if (!begun || progress < begun.progress) setBegun({ at: Date.now(), progress })
    else if (progress > begun.progress) {
      const seconds = Math.ceil(((Date.now() - begun.at) / 1000 / (progress - begun.progress)) * (1 - progress))
      setLeft(formatDuration({ minutes: Math.floor(seconds / 60), seconds: seconds % 60 }))
    }
  }, [progress, begun])
  return left
}
