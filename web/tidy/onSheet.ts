import { RATE, type Frames } from '../../core/time'
import type { FinderName } from '../../core/tidy/finder'
import type { SheetFound } from '../sheet/paint/model'
import { keyOf, type Place } from './useKinds'

const seconds = (length: Frames) => (length / RATE).toFixed(1)

/** What becomes of a place, in a few signs. */
export function becomes({ from, to, proposes }: Place): string {
  switch (proposes.do) {
    case 'takeOut':
      return `${seconds(to - from)} → ${seconds(Math.max(0, to - from - (proposes.goes.to - proposes.goes.from)))}`
    case 'hold':
      return 'out, time held'
    case 'level': {
      const dB = proposes.points.reduce((most, point) => (Math.abs(point.dB) > Math.abs(most) ? point.dB : most), 0)
      return `${dB < 0 ? '−' : '+'}${Math.abs(dB)} dB`
    }
    case 'mute':
      return 'muted'
    case 'repair':
      return proposes.how === 'bridge' ? 'bridged' : 'low end out'
  }
}

/** Places that are open, as the Sheet marks them: `lies` gives where one lies there, or null. */
export const marked = (
  places: readonly Place[],
  name: FinderName,
  chosen: Place | null,
  lies: (place: Place) => { from: Frames; to: Frames } | null,
): SheetFound[] => {
  const look = name === 'fillers' || name === 'stumbles' || name === 'retakes' ? 'ring' : 'bracket'
  return places.flatMap((one): SheetFound[] => {
    const place = one.decided ? null : lies(one)
    if (!place) return []
    const looked = chosen !== null && keyOf(one) === keyOf(chosen) ? chosen : null
    const { proposes } = looked ?? one
    const goes = 'goes' in proposes ? proposes.goes : one
    const shift = place.from - one.from
    return [
      {
        from: place.from,
        to: place.to,
        look,
        goes: shift ? { from: goes.from + shift, to: goes.to + shift } : goes,
        text: looked && becomes(looked),
      },
    ]
  })
}
