import { applyAll } from '../steps/document'
import { clamp, milliseconds, RATE, type Frames, type Stretch } from '../time'
import { actualityType, type Actuality, type ActualityStep } from './actuality'
import { shapeLevel } from './levelLine'

/**
 * Brings a phrase that is softer or louder than what the same speaker says around it to that level. Only speech is
 * compared with speech.
 */

/** A word that is heard, and where. */
export interface Said {
  at: Frames
  end: Frames
  phraseEnd: boolean
  speaker?: string
}

/** A phrase: the stretch that is changed, and in it from its first word to its last, which is measured. */
export interface Phrase extends Stretch {
  speech: Stretch
  speaker: string
}

/** How loud what somebody says is, in LUFS (ITU-R BS.1770); −Infinity for what is silent or too short. */
export interface Loud {
  loudness: number
  speaker: string
}

/** So much speech is compared on either side of a stretch. */
const BESIDE: Frames = 5 * RATE
/** No phrase is changed by more, in dB. */
const MOST = 12
const SHOULDER: Frames = milliseconds(60)

/** Words in order as phrases, each of one speaker. */
function phrasesOf(words: readonly Said[]): Said[][] {
  const phrases: Said[][] = []
  words.forEach((word, i) => {
    const last = words[i - 1]
    if (!last || last.phraseEnd || (last.speaker ?? '') !== (word.speaker ?? '')) phrases.push([word])
    else phrases[phrases.length - 1].push(word)
  })
  return phrases
}

const speechOf = (phrase: readonly Said[]): Stretch => ({ from: phrase[0].at, to: Math.max(...phrase.map(({ end }) => end)) })

/** The phrases that a stretch holds, as far as they lie in it; all of it where it has no words. */
export function phrasesIn(words: readonly Said[], { from, to }: Stretch): Phrase[] {
  const inside = words.filter(({ at, end }) => at + end > 2 * from && at + end < 2 * to)
  if (!inside.length) return [{ from, to, speech: { from, to }, speaker: '' }]
  const phrases = phrasesOf(inside)
  return phrases.map((phrase, i) => {
    const speech = speechOf(phrase)
    return {
      from: i === 0 ? Math.min(from, speech.from) : speech.from,
      to: i === phrases.length - 1 ? Math.max(to, speech.to) : speech.to,
      speech,
      speaker: phrase[0].speaker ?? '',
    }
  })
}

/**
 * What the same speakers say on either side of a stretch, phrase by phrase, from word to word; where no words are known,
 * all that lies there.
 */
export function speechBeside(words: readonly Said[], { from, to }: Stretch, length: Frames): (Stretch & { speaker: string })[] {
  const near = (a: Frames, b: Frames) =>
    phrasesOf(words.filter(({ at, end }) => at >= a && end <= b)).map((phrase) => ({
      ...speechOf(phrase),
      speaker: phrase[0].speaker ?? '',
    }))
  if (words.length) return [...near(from - BESIDE, from), ...near(to, to + BESIDE)]
  const sides = [
    { from: Math.max(0, from - BESIDE), to: from },
    { from: to, to: Math.min(length, to + BESIDE) },
  ]
  return sides.filter((part) => part.to > part.from).map((part) => ({ ...part, speaker: '' }))
}

/** A change of level over a stretch, in dB. */
export interface Change extends Stretch {
  dB: number
}

/**
 * What brings phrases to the level of what the same speaker says beside them, or, where there is nothing
 * beside them, to that of each other. What is silent is left.
 */
export function evened(phrases: readonly (Stretch & Loud)[], neighbours: readonly Loud[]): Change[] {
  const levels = (of: readonly Loud[], speaker: string) =>
    of.filter((one) => one.speaker === speaker && Number.isFinite(one.loudness)).map(({ loudness }) => loudness)
  return phrases.flatMap(({ from, to, loudness, speaker }) => {
    const beside = levels(neighbours, speaker)
    const heard = beside.length ? beside : levels(phrases, speaker)
    if (!heard.length || !Number.isFinite(loudness)) return []
    const level = heard.reduce((sum, one) => sum + one, 0) / heard.length
    const dB = Math.round(2 * clamp(level - loudness, -MOST, MOST)) / 2
    return dB !== 0 ? [{ from, to, dB }] : []
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
