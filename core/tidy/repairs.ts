import { LONGEST_REPAIR, type RepairKind } from '../mend/repair'
import { milliseconds, type Frames, type Stretch } from '../time'
import { onSides } from './bySound'
import type { Finder, Found, Looked } from './finder'
import type { HeardSide } from './listen/side'

/** What is repaired at its spot: clicks and holes are bridged from both sides, of thumps the low end goes. */

/** A click rings on a little, and so does the wave that it struck. */
const AROUND_CLICK: Frames = milliseconds(1.2)
/** The shoulders of what is taken from a thump. */
const AROUND_THUMP: Frames = milliseconds(5)

type Spot = Stretch & { over?: number }

function spots(looked: Looked, how: RepairKind, around: Frames, of: (side: HeardSide) => readonly Spot[], over: number): Found[] {
  return onSides(looked, (side) =>
    of(side).flatMap((spot): Omit<Found, 'side' | 'speaker'>[] => {
      if ((spot.over ?? Infinity) < over) return []
      const place = { from: Math.max(0, spot.from - around), to: Math.min(looked.frames, spot.to + around) }
      if (place.to - place.from > LONGEST_REPAIR[how]) return []
      return [{ ...place, proposes: { do: 'repair', how }, sure: Math.min(1, 0.6 + (spot.over ?? 20) / 50) }]
    }),
  )
}

/** Lips, tongue and ticks of the wire: so many dB above what the voice makes around them. */
export const clicks: Finder = (looked) => ({
  setting: { unit: 'dB', least: 8, most: 30, step: 1, usual: 10 },
  find: (over) => spots(looked, 'bridge', AROUND_CLICK, (side) => side.clicks, over),
})

/** Plosives and bumps: so many dB above the low end of the voice. */
export const pops: Finder = (looked) => ({
  setting: { unit: 'dB', least: 6, most: 30, step: 1, usual: 14 },
  find: (over) => spots(looked, 'lowEnd', AROUND_THUMP, (side) => side.thumps, over),
})

/** Small gaps of digital silence. */
export const holes: Finder = (looked) => ({
  setting: null,
  find: () => spots(looked, 'bridge', 0, (side) => side.holes, 0),
})
