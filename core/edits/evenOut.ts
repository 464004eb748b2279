import { applyAll } from '../steps/document'
import { milliseconds, RATE, type Frames, type Stretch } from '../time'
import { actualityType, type Actuality, type ActualityStep } from './actuality'
import { shapeLevel } from './levelLine'

/** A phrase that is softer or louder than what is said around it, brought to its neighbours' level. */

interface Said {
  at: Frames
  end: Frames
  phraseEnd: boolean
}

/** What is said beside a stretch, that much of it on either side. */
const BESIDE: Frames = 5 * RATE
/** No phrase is changed by more, in dB. */
const MOST = 12
const SHOULDER: Frames = milliseconds(60)

/** The phrases that a stretch holds, as far as they lie in it; all of it where it has no words. */
export function phrasesIn(words: readonly Said[], { from, to }: Stretch): Stretch[] {
  const inside = words.filter(({ at, end }) => at + end > 2 * from && at + end < 2 * to)
  if (!inside.length) return [{ from, to }]
  const ends = inside.flatMap((word, i) => (word.phraseEnd || i === inside.length - 1 ? [word.end] : []))
  return ends.map((end, i) => ({ from: i === 0 ? Math.min(from, inside[0].at) : inside.find(({ at }) => at >= ends[i - 1] - 1)?.at ?? ends[i - 1], to: i === ends.length - 1 ? Math.max(to, end) : end }))
}

/** What of a piece lies beside a stretch, to be held against it. */
export const beside = ({ from, to }: Stretch, length: Frames): Stretch[] =>
  [
    { from: Math.max(0, from - BESIDE), to: from },
    { from: to, to: Math.min(length, to + BESIDE) },
  ].filter((part) => part.to > part.from)

/** A change of level over a stretch, in dB. */
export interface Change extends Stretch {
  dB: number
}

/**
 * What brings phrases to the level of their neighbours, or, where all of a piece is meant, to that of
 * each other. Loudness of each in LUFS (ITU-R BS.1770); what is silent is left.
 */
export function evened(phrases: readonly (Stretch & { loudness: number })[], neighbours: readonly number[]): Change[] {
  const beside = neighbours.filter(Number.isFinite)
  // what has no neighbours is held against itself
  const heard = beside.length ? beside : phrases.map(({ loudness }) => loudness).filter(Number.isFinite)
  if (!heard.length) return []
  const level = heard.reduce((sum, one) => sum + one, 0) / heard.length
  return phrases.flatMap(({ from, to, loudness }) => {
    const dB = Math.round(2 * Math.max(-MOST, Math.min(MOST, level - loudness))) / 2
    return Number.isFinite(loudness) && dB !== 0 ? [{ from, to, dB }] : []
  })
}

/** Changes laid on the level line of a piece, on top of what is there. */
export function withChanges(piece: Actuality, changes: readonly Change[]): ActualityStep[] {
  const steps: ActualityStep[] = []
  let now = piece
  for (const { from, to, dB } of changes) {
    const more = shapeLevel(now, { from, to }, (was) => was + dB, SHOULDER)
    now = applyAll(actualityType, now, more)
    steps.push(...more)
  }
  return steps
}
