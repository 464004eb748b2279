import { useEffect, useState } from 'react'
import type { TapeFigures } from '../../core/hearing/ear'
import type { Plan } from '../../core/render/plan'
import type { Frames } from '../../core/time'
import { hear } from '../sound/hear'

/** The figures of a plan between two frames as it would be sent; null while it is listened to, or where nothing is asked. */
export function useMeasured(plan: Plan | null, from: Frames, to: Frames): TapeFigures | 'failed' | null {
  const [found, setFound] = useState<{ of: Plan; from: Frames; to: Frames; figures: TapeFigures | 'failed' } | null>(null)
  useEffect(() => {
    if (!plan) return
    const off = new AbortController()
    hear({ plan, from, to }, off.signal).then(
      (figures) => setFound({ of: plan, from, to, figures }),
      () => off.signal.aborted || setFound({ of: plan, from, to, figures: 'failed' }),
    )
    return () => off.abort()
  }, [plan, from, to])
  return found && found.of === plan && found.from === from && found.to === to ? found.figures : null
}
