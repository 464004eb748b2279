import type { Stretch } from '../../time'
import { inFrames, runsOf, type Sounding } from './sounding'

/** How loud phrases are, and spots within them. */

/** Voices that lie this close together belong to one phrase, in looks. */
const TOGETHER = 18
/** A loud spot is over where it has not come again for so many looks. */
const AGAIN = 45
/** It stands so far above the voice, in dB, or it is no candidate. */
const LEAST = 5

export interface Phrase extends Stretch {
  /** Mean level of its ringing looks, dBFS. */
  level: number
}

export interface LoudSpot extends Stretch {
  /** How far it stands above the voice, in dB. */
  over: number
  /** No voice: a cough, a bang. */
  voiceless: boolean
}

const mean = (level: Float32Array, from: number, to: number, counts: (i: number) => boolean): number => {
  let [power, count] = [0, 0]
  for (let i = from; i < to; i++) {
    if (!counts(i)) continue
    power += 10 ** (level[i] / 10)
    count++
  }
  return count ? 10 * Math.log10(power / count) : -Infinity
}

export function phrasesIn({ looks, voiced, voices }: Sounding): Phrase[] {
  const phrases: Stretch[] = []
  for (const { from, to } of voices) {
    const last = phrases.at(-1)
    if (last && from - last.to <= TOGETHER) last.to = to
    else phrases.push({ from, to })
  }
  return phrases.flatMap((phrase) => {
    const level = mean(looks.level, phrase.from, phrase.to, (i) => voiced[i] === 1)
    return level > -Infinity ? [{ ...inFrames(phrase), level }] : []
  })
}

export function loudSpotsIn({ looks, voiced, heard, level: usual }: Sounding): LoudSpot[] {
  const { level, count } = looks
  if (usual === -Infinity) return []
  // over a loud vowel of the voice itself
  const over = usual + LEAST + 3
  return runsOf(count, (i) => level[i] > over, AGAIN).flatMap((spot): LoudSpot[] => {
    let { from, to } = spot
    while (from > 0 && heard[from - 1] && level[from - 1] < level[from] + 3 && spot.from - from < AGAIN) from--
    while (to < count && heard[to] && level[to] < level[to - 1] + 3 && to - spot.to < AGAIN) to++
    const loud = (i: number) => level[i] > over
    const own = mean(level, from, to, loud)
    let [rings, all] = [0, 0]
    for (let i = from; i < to; i++) {
      if (!loud(i)) continue
      all++
      rings += voiced[i]
    }
    return [{ ...inFrames({ from, to }), over: own - usual, voiceless: rings < 0.4 * all }]
  })
}
