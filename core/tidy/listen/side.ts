import { overlapsAny } from '../../stretches'
import type { Stretch } from '../../time'
import { breathsIn, type Breath } from './breaths'
import { ClickListener, type Click } from './clicks'
import { hesitationsIn, type Hesitation } from './hesitations'
import { HoleListener } from './holes'
import { LOOK, Looking } from './looks'
import { loudSpotsIn, phrasesIn, type LoudSpot, type Phrase } from './phrases'
import { inFrames, soundingOf } from './sounding'
import { thumpsIn, type Thump } from './thumps'

/** What was heard on a side, for finders: each with a measure of its own, so that a setting that is turned takes no second listening. */
export interface HeardSide {
  /** Where a voice is heard, consonants included. */
  voices: Stretch[]
  hesitations: Hesitation[]
  breaths: Breath[]
  clicks: Click[]
  thumps: Thump[]
  loud: LoudSpot[]
  phrases: Phrase[]
  holes: Stretch[]
  /** Level of the voice, dBFS; null where there is none. */
  level: number | null
}

/** Listens to one side from its start to its end, in blocks of any size. */
export class SideListener {
  private readonly looking = new Looking()
  private readonly clicks = new ClickListener()
  private readonly holes = new HoleListener()

  add(sound: Float32Array): void {
    this.looking.add(sound)
    this.clicks.add(sound)
    this.holes.add(sound)
  }

  finish(): HeardSide {
    const looks = this.looking.finish()
    const sounding = soundingOf(looks)
    const holes = this.holes.finish()
    return {
      voices: sounding.voices.map(inFrames),
      hesitations: hesitationsIn(sounding),
      breaths: breathsIn(sounding),
      // the edges of a hole click by themselves
      clicks: this.clicks.finish().filter((click) => !overlapsAny(holes.map(around), click)),
      thumps: thumpsIn(looks, sounding.voiced),
      loud: loudSpotsIn(sounding),
      phrases: phrasesIn(sounding),
      holes,
      level: sounding.level === -Infinity ? null : sounding.level,
    }
  }
}

export type { Phrase }

const around = ({ from, to }: Stretch): Stretch => ({ from: from - LOOK / 2, to: to + LOOK / 2 })
