import { LONGEST_REPAIR, type RepairKind } from '../mend/repair'
import { overlapsAny } from '../stretches'
import { milliseconds, type Frames, type Stretch } from '../time'
import { onSides } from './bySound'
import type { Finder, Found, Looked } from './finder'
import type { HeardSide } from './listen/side'

/** What is repaired at its spot: clicks and holes are bridged from both sides, of thumps the low end goes. */

/** A click rings on a little, and so does the wave that it struck. */
const AROUND_CLICK: Frames = milliseconds(1.2)
/** What is found for certain stands out by so much. */
const CERTAIN = 100
/** The shoulders of what is taken from a thump. */
const AROUND_THUMP: Frames = milliseconds(5)

/** A spot, and how many dB it stands out by. */
type Spot = Stretch & { over: number }

/** Spots of all sides, ready to be told by how far they stand out. */
function standingOut(looked: Looked, how: RepairKind, around: Frames, of: (side: HeardSide) => readonly Spot[]): (over: number) => Found[] {
  const all = onSides(looked, (side) =>
    of(side).flatMap(({ from, to, over }) => {
      const place = { from: Math.max(0, from - around), to: Math.min(looked.frames, to + around) }
      if (place.to - place.from > LONGEST_REPAIR[how]) return []
      return [{ ...place, over, proposes: { do: 'repair' as const, how }, sure: Math.min(1, 0.6 + over / 50) }]
    }),
  )
  return (over) => all.filter((one) => one.over >= over)
}

/** Lips, tongue and ticks of the wire: so many dB above what the voice makes around them. */
export const clicks: Finder = (looked) => ({
  setting: { unit: 'dB', least: 8, most: 30, step: 1, usual: 10 },
  find: standingOut(looked, 'bridge', AROUND_CLICK, clicksOf),
})

/** Where nobody speaks nothing but a click clicks: less tells it there, in dB. Consonants lie this close to a voice. */
const IN_PAUSES = 3
const CONSONANT: Frames = milliseconds(100)
/** A cough and a bang begin with a click of their own. */
const BEGINS: Frames = milliseconds(30)

const wider = ({ from, to }: Stretch, by: Frames): Stretch => ({ from: from - by, to: to + by })

/** One as loud as the voice is told by less, and one far below it has to stand out by more: from dB below the voice to dB of that. */
const [LOUD, SOFT] = [
  { below: 6, by: 2 },
  { below: 24, by: -4 },
]

/** How much more or less a click with such a peak in dBFS has to stand out beside a voice of such a level. */
function forLoudness(peak: number, level: number | null): number {
  if (level === null) return 0
  const share = (level - peak - LOUD.below) / (SOFT.below - LOUD.below)
  return LOUD.by + (SOFT.by - LOUD.by) * Math.max(0, Math.min(1, share))
}

function clicksOf({ clicks: all, voices, loud, level }: HeardSide): Spot[] {
  const bangs = loud.filter(({ voiceless }) => voiceless).map((one) => wider(one, BEGINS))
  return all
    .filter((click) => !overlapsAny(bangs, click))
    .map((click) => {
      const alone = overlapsAny(voices, wider(click, CONSONANT)) ? 0 : IN_PAUSES
      return { ...click, over: click.over + alone + forLoudness(click.peak, level) }
    })
}

/** Plosives and bumps: so many dB above the low end of the voice. */
export const pops: Finder = (looked) => ({
  setting: { unit: 'dB', least: 6, most: 30, step: 1, usual: 14 },
  find: standingOut(looked, 'lowEnd', AROUND_THUMP, ({ thumps }) => thumps),
})

/** Small gaps of digital silence. */
export const holes: Finder = (looked) => ({
  setting: null,
  find: standingOut(looked, 'bridge', 0, (side) => side.holes.map((hole) => ({ ...hole, over: CERTAIN }))),
})
