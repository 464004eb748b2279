import { decibels } from '../sound/level'
import type { Stretch } from '../time'
import { Clipping } from './clipping'
import type { Hum } from './hum'
import { Levels } from './levels'
import { Likeness } from './likeness'
import { asHeard, loudnessOf, together, type Loudness } from './loudness'
import { speechOf } from './speech'
import { TruePeak } from './truePeak'
import { united } from '../stretches'

/** Silence, in whatever dB: a figure that can be written down where there is nothing to be heard. */
export const SILENCE = -120

export interface ChannelFigures {
  /** Sample peak, dBFS. */
  peak: number
  /** Between the samples, dBTP. */
  truePeak: number
  /** Mean level while somebody speaks, and of the room, dBFS. */
  speechLevel: number
  floor: number
  /** How far its wave lies off zero on average, as a share of full scale (DC offset). */
  offset?: number
  /** Where somebody speaks on it. */
  speech: Stretch[]
}

/** What the ear would notice about a tape. */
export interface TapeFigures {
  /** Of all channels together. */
  loudness: Loudness
  channels: ChannelFigures[]
  clipped: { count: number; places: Stretch[] }
  /** Where somebody speaks, on any channel. */
  speech: Stretch[]
  hum: Hum | null
  /** Of the first two channels: -1 upside down, 0 nothing in common, 1 the same; 0 where there is one. */
  correlation: number
  same: boolean
}

/** One sample in so many is added up for the mean. */
const OFFSET_STEP = 16

const figure = (value: number): number => Math.max(SILENCE, Math.round(value * 100) / 100)

/** Listens to a tape from its start to its end, a block of all channels at a time. */
export class Ear {
  private readonly channels
  private readonly likeness = new Likeness()

  /** `overs`: the wave was resampled or coded, so that clipping shows as overs. */
  constructor(count: number, overs: boolean) {
    this.channels = Array.from({ length: count }, () => ({
      levels: new Levels(),
      peak: new TruePeak(),
      clipping: new Clipping(overs),
      offset: { sum: 0, count: 0, next: 0 },
    }))
  }

  add(samples: readonly Float32Array[]): void {
    this.channels.forEach(({ levels, peak, clipping, offset }, c) => {
      // a mean needs few samples
      let i = offset.next
      for (; i < samples[c].length; i += OFFSET_STEP, offset.count++) offset.sum += samples[c][i]
      offset.next = i - samples[c].length
      const tops = levels.add(samples[c])
      peak.add(samples[c], tops)
      clipping.add(samples[c], tops)
    })
    if (samples.length > 1) this.likeness.add(samples[0], samples[1])
  }

  /** Peaks of each channel for drawing, as far as they are finished and were not asked for before. */
  takePeaks(): Int16Array[][] {
    return this.channels.map(({ levels }) => levels.peaks.take())
  }

  /** K-weighted mean square of each tenth of a second, a channel each. */
  get powers(): Float32Array[] {
    return this.channels.map(({ levels }) => Float32Array.from(levels.powers))
  }

  /** Mean square of each look (20 ms), a channel each. */
  get looks(): readonly (readonly number[])[] {
    return this.channels.map(({ levels }) => levels.all)
  }

  /** All figures but the hum, which is looked for in the room tone. */
  finish(): TapeFigures {
    for (const { levels } of this.channels) levels.finish()
    const said = this.channels.map(({ levels }) => speechOf(levels))
    const loudness = loudnessOf(
      together(
        this.channels.map((channel) => channel.levels.powers),
        asHeard([{ channels: this.channels.map((_, c) => c) }]),
      ),
    )
    return {
      loudness: loudnessFigures(loudness),
      channels: this.channels.map(({ peak, offset }, c) => {
        const truePeak = peak.finish()
        return {
          peak: figure(decibels(peak.sample)),
          truePeak: figure(decibels(truePeak)),
          speechLevel: figure(said[c].level),
          floor: figure(said[c].floor),
          offset: Math.round((10_000 * offset.sum) / Math.max(1, offset.count)) / 10_000,
          speech: said[c].speech,
        }
      }),
      clipped: {
        count: this.channels.reduce((sum, { clipping }) => sum + clipping.count, 0),
        places: this.channels.flatMap(({ clipping }) => clipping.places).sort((a, b) => a.from - b.from),
      },
      speech: united(said.flatMap(({ speech }) => speech)),
      hum: null,
      correlation: Math.round(this.likeness.correlation * 1000) / 1000,
      same: this.likeness.same,
    }
  }
}

/** Loudness that can be written down. */
export const loudnessFigures = ({ integrated, shortTerm, momentary, range }: Loudness): Loudness => ({
  integrated: figure(integrated),
  shortTerm: figure(shortTerm),
  momentary: figure(momentary),
  range: figure(range),
})
