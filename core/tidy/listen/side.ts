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

/**
 * What was heard on a side, for finders: each with a measure of its own, so that a setting that is turned takes no second
 * listening. It is listened to for voices and for spots apart, so that two cores share the work.
 */
export interface HeardVoices {
  /** Where a voice is heard, consonants included. */
  voices: Stretch[]
  hesitations: Hesitation[]
  breaths: Breath[]
  thumps: Thump[]
  loud: LoudSpot[]
  phrases: Phrase[]
  /** Level of the voice, dBFS; null where there is none. */
  level: number | null
}

export interface HeardSpots {
  clicks: Click[]
  holes: Stretch[]
}

export type HeardSide = HeardVoices & HeardSpots

/** Listens for voices to one side from its start to its end, in blocks of any size. */
export class VoiceListener {
  private readonly looking = new Looking()

  add(sound: Float32Array): void {
    this.looking.add(sound)
  }

  finish(): HeardVoices {
    const looks = this.looking.finish()
    const sounding = soundingOf(looks)
    return {
      voices: sounding.voices.map(inFrames),
      hesitations: hesitationsIn(sounding),
      breaths: breathsIn(sounding),
      thumps: thumpsIn(looks, sounding.voiced),
      loud: loudSpotsIn(sounding),
      phrases: phrasesIn(sounding),
      level: sounding.level === -Infinity ? null : sounding.level,
    }
  }
}

/** The same for clicks and holes. */
export class SpotListener {
  private readonly clicks = new ClickListener()
  private readonly holes = new HoleListener()

  add(sound: Float32Array): void {
    this.clicks.add(sound)
    this.holes.add(sound)
  }

  finish(): HeardSpots {
    const holes = this.holes.finish()
    // the edges of a hole click by themselves
    const edges = holes.map(({ from, to }) => ({ from: from - LOOK / 2, to: to + LOOK / 2 }))
    return { clicks: this.clicks.finish().filter((click) => !overlapsAny(edges, click)), holes }
  }
}

export type { LoudSpot, Phrase }
