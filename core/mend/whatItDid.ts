import type { MendStep } from './chain'
import { Chirping } from './chirping'
import { HumLeft } from './humLeft'
import { LOOK } from './looks'

/** What a treatment did to a side, in figures that can be written down. */
export interface WhatItDid {
  /** How much softer the room is under the voice, in dB, told by the quietest tenth of it. */
  room: number
  /** What of the voice is no longer as it was, over what is left of it, in dB; whatever its level was turned by does not count. */
  voice: number
  /** How many clicks and pops were repaired, and how many peaks restored. */
  clicks: number
  pops: number
  peaks: number
  /** How much softer mains hum is, beyond the voice's own level, in dB; only where the treatment sees to it. */
  hum?: number
  /** How much more what is left of the room jumps than it did, as a ratio; not known of what was made before it was told. */
  chirp?: number
}

/** From here on a voice may sound changed, in dB. */
export const CHANGED_MUCH = -12
/**
 * From here on what is left of a noise may be heard to chirp, as a ratio: noise taken down by 12 dB stays below it on made tapes,
 * by 24 dB and more it goes over it on some.
 */
export const CHIRPS = 2

/** Looks this far below the loudest ones are no speech, in dB. */
const SPEECH_WITHIN = 25
const DIGITAL_SILENCE = 1e-9

/** Compares what was recorded with what was made of it, part by part in order. */
export class Comparison {
  private readonly before: number[] = []
  private readonly after: number[] = []
  private readonly strange: number[] = []
  private readonly chirping = new Chirping()
  private readonly hum: HumLeft | null

  /** `steps`: what was done, as far as it is known. */
  constructor(steps: readonly MendStep[] = []) {
    const step = steps.find((one) => one.kind === 'hum' && !one.off)
    this.hum = step?.kind === 'hum' ? new HumLeft(step) : null
  }

  /** Takes a part of both; of what is no whole look the rest is left out. */
  add(before: Float32Array, after: Float32Array): void {
    this.hum?.add(before, after)
    for (let from = 0; from + LOOK <= before.length; from += LOOK) {
      let [a, b, both] = [0, 0, 0]
      for (let i = from; i < from + LOOK; i++) {
        a += before[i] * before[i]
        b += after[i] * after[i]
        both += before[i] * after[i]
      }
      if (a / LOOK > DIGITAL_SILENCE) this.chirping.add(a, before.subarray(from, from + LOOK), after.subarray(from, from + LOOK))
      this.before.push(a / LOOK)
      this.after.push(b / LOOK)
      // what is left of it is no turned copy of what was
      this.strange.push(a > 0 ? Math.max(0, b - (both * both) / a) / LOOK : b / LOOK)
    }
  }

  finish(): Pick<WhatItDid, 'room' | 'voice' | 'chirp' | 'hum'> {
    const loud = (values: readonly number[], share: number) =>
      [...values].sort((x, y) => x - y)[Math.floor((values.length - 1) * share)] ?? 0
    const heard = this.before.flatMap((power, i) => (power > DIGITAL_SILENCE ? [i] : []))
    const quiet = loud(
      heard.map((i) => this.before[i]),
      0.1,
    )
    const still = heard.filter((i) => this.before[i] <= quiet)
    const sum = (values: readonly number[], of: readonly number[]) => of.reduce((total, i) => total + values[i], 0)
    const least = loud(this.before, 0.95) * 10 ** (-SPEECH_WITHIN / 10)
    const speech = this.before.flatMap((power, i) => (power > least ? [i] : []))
    const dB = (ratio: number) => Math.round(100 * Math.log10(Math.max(1e-12, ratio))) / 10
    // the voice's own level does not count: what the room fell by beyond it
    const turned = sum(this.after, speech) / Math.max(1e-12, sum(this.before, speech))
    const humLeft = this.hum?.finish() ?? null
    return {
      ...(humLeft === null ? {} : { hum: -dB(humLeft / Math.max(1e-12, turned)) }),
      room: still.length ? -dB(sum(this.after, still) / sum(this.before, still) / Math.max(1e-12, turned)) : 0,
      voice: speech.length ? dB(sum(this.strange, speech) / Math.max(1e-12, sum(this.after, speech))) : -120,
      chirp: this.chirping.finish(),
    }
  }
}
