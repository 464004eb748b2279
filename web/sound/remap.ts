import { mapPosition, type ActualityStep } from '../../core/edits/actuality'
import { throughMove, wayBack } from '../../core/edits/movement'
import type { Frames } from '../../core/time'

/** Where places of what played until now lie in what plays from now on: runs, in order. */
export type Remap = { from: Frames; length: Frames; to: Frames }[]

export function remapped(remap: Remap, position: Frames): Frames {
  let found = remap[0]
  for (const run of remap) if (run.from <= position) found = run
  return found ? found.to + Math.min(Math.max(0, position - found.from), found.length) : position
}

/** The runs that steps on a piece make of its time line. */
export function remapOf(steps: readonly ActualityStep[], length: Frames): Remap {
  const mapAll = (position: Frames, side: 'before' | 'after' = 'after') => steps.reduce((at, step) => mapPosition(step, at, side), position)
  // wherever a step begins or ends, seen from the start, a new run may begin
  const edges = new Set<Frames>([0])
  const back: ActualityStep[] = []
  for (const step of steps) {
    const ends = step.type === 'replace' ? [step.from, step.to] : step.type === 'move' ? [step.from, step.to, step.at] : []
    for (const edge of ends) edges.add(unmapped(back, edge))
    back.unshift(step)
  }
  const sorted = [...edges].filter((edge) => edge <= length).sort((a, b) => a - b)
  return sorted.map((from, i) => {
    const end = sorted[i + 1] ?? length
    const to = mapAll(from)
    return { from, length: Math.max(0, Math.min(end - from, mapAll(end, 'before') - to)), to }
  })
}

function unmapped(back: readonly ActualityStep[], position: Frames): Frames {
  return back.reduce((at, step) => {
    if (step.type === 'move') return throughMove(wayBack(step), at)
    if (step.type !== 'replace') return at
    const put = step.insert.reduce((sum, span) => sum + span.to - span.from, 0)
    if (at <= step.from) return at
    return at >= step.from + put ? at - put + step.to - step.from : step.from
  }, position)
}
