import { ENDS, type Word } from '../tape/words'
import { clamp, milliseconds, type Frames } from '../time'
import { pitchOf } from './jump'

/** The gaps that a speaker makes: between sentences, between phrases, and in running speech. */

/** What is to stand between two words at a cut, in frames. */
export interface Gap {
  natural: Frames
  /** The shortest and longest gap that a cut leaves. */
  least: Frames
  most: Frames
}

/** What is known of the place where a word stood: the sound around it, from frame `start` of its tape on. */
export interface AtWord {
  words: readonly Word[]
  sound: Float32Array
  start: Frames
}

/** Used for a speaker of whom no such pause is known. */
const USUAL = { sentence: milliseconds(380), clause: milliseconds(180), within: milliseconds(20) }
/** A pause from here on ends a phrase, unless this speaker's words stand far apart anyway. */
const PHRASE = milliseconds(150)
/** A voice that comes to an end, by its pitch and its last syllable, needs no longer pause than this. */
const ENDED = milliseconds(90)
/** In running speech a cut leaves no more. */
const RUNNING = milliseconds(140)
/** The gap is judged by so many of the speaker's nearest pauses. */
const NEAREST = 7
const FEWEST = 3
/** What is longer is no gap between words but a rest. */
const LONGEST = milliseconds(2000)
/** A cut between phrases leaves at least this share of the speaker's own pause there. */
const LEAST_SHARE = 0.75

const FILLERS = /^(?:u+m+|u+h+m?|e+r+m?|h+m+|m+)[.,…]*$/i
const isFiller = (word: Word): boolean => word.what === 'filler' || FILLERS.test(word.text)

type Kind = 'sentence' | 'clause' | 'within'
const byPunctuation = ({ text }: Word): Kind => (ENDS.test(text) ? 'sentence' : /[,;:–—]["”’]?$/.test(text) ? 'clause' : 'within')

interface OwnGap {
  gap: Frames
  away: Frames
  kind: Kind
}

const sorted = (values: readonly number[]): number[] => [...values].sort((a, b) => a - b)
const share = (values: readonly number[], at: number): number => sorted(values)[Math.floor((values.length - 1) * at)]

/** The gaps that the speaker of a word makes between words that follow one another, but for those at the cut itself. */
function ownGaps(words: readonly Word[], left: Word, right: Word): OwnGap[] {
  return words.flatMap((word, i) => {
    const next = words[i + 1]
    if (
      !next ||
      word.speaker !== left.speaker ||
      next.speaker !== left.speaker ||
      isFiller(word) ||
      isFiller(next) ||
      word.what ||
      next.what
    )
      return []
    const gap = Math.max(0, next.from - word.to)
    // the gaps at the cut itself are what a stumble made of them
    return gap < LONGEST && word !== left && next !== right ? [{ gap, away: Math.abs(word.to - left.to), kind: byPunctuation(word) }] : []
  })
}

const nearest = (gaps: readonly OwnGap[]): number[] =>
  [...gaps]
    .sort((a, b) => a.away - b.away)
    .slice(0, NEAREST)
    .map(({ gap }) => gap)
const middleOf = (gaps: readonly OwnGap[], usual: Frames): Frames => (gaps.length < FEWEST ? usual : share(nearest(gaps), 0.5))

/** Whether somebody wrote full stops there: then they tell where sentences end. */
const isPunctuated = (gaps: readonly OwnGap[], left: Word): boolean =>
  byPunctuation(left) !== 'within' || gaps.filter(({ kind }) => kind === 'sentence').length >= FEWEST

/** From which gap on this speaker's pauses end a phrase. */
const phraseFrom = (gaps: readonly OwnGap[]): Frames =>
  gaps.length < FEWEST
    ? PHRASE
    : Math.max(
        PHRASE,
        Math.min(
          2 * PHRASE,
          Math.round(
            2.5 *
              share(
                gaps.map(({ gap }) => gap),
                0.5,
              ),
          ),
        ),
      )

/** Semitones by which a voice falls towards the end of a word, and how long the word is for its letters against others'. */
const FALL = 1.5
const DRAWN_OUT = 1.25
const LOOK = milliseconds(36)

/**
 * Whether a voice comes to an end with a word: its pitch falls and its last syllable is long. Source: pre-boundary
 * lengthening and final lowering (Wightman et al., 1992).
 */
export function soundsFinal(word: Word, { words, sound, start }: AtWord): boolean {
  const at = (from: Frames) =>
    from < start || from + LOOK > start + sound.length ? 0 : pitchOf(sound.subarray(from - start, from - start + LOOK))
  const pitches: number[] = []
  for (let from = Math.max(start, word.from - milliseconds(250)); from + LOOK <= word.to; from += LOOK / 2) {
    const pitch = at(from)
    if (pitch) pitches.push(pitch)
  }
  if (pitches.length < 4) return false
  const half = pitches.length >> 1
  const falls = 12 * Math.log2(share(pitches.slice(0, half), 0.5) / share(pitches.slice(-Math.min(3, half)), 0.5)) >= FALL
  const pace = (one: Word) => (one.to - one.from) / Math.max(1, one.text.replace(/[^\p{L}]/gu, '').length)
  const paces = words.filter((one) => one.speaker === word.speaker && !one.what && !isFiller(one)).map(pace)
  return falls && paces.length >= FEWEST && pace(word) >= DRAWN_OUT * share(paces, 0.5)
}

/** What of the words beside a cut stood before and after it on the tape. */
function stoodBeside(left: Word, right: Word, before: AtWord, after: AtWord): { afterLeft: Frames; beforeRight: Frames; gone: Word[] } {
  const own = (words: readonly Word[]) => words.filter((word) => word.what !== 'noise')
  const next = own(before.words).find((word) => word.from >= left.to - 1 && word !== left)
  const last = own(after.words)
    .filter((word) => word.to <= right.from + 1 && word !== right)
    .at(-1)
  const gone =
    before.words === after.words || left.to <= right.from
      ? own(before.words).filter((word) => word.from >= left.to - 1 && word.to <= right.from + 1)
      : []
  return {
    afterLeft: next ? Math.max(0, next.from - left.to) : LONGEST,
    beforeRight: last ? Math.max(0, right.from - last.to) : LONGEST,
    gone,
  }
}

/**
 * What should stand between two words of a tape, or of two, that come to stand beside each other. Where somebody
 * wrote full stops these tell; elsewhere the pauses themselves do, and how the voice came to its end.
 */
export function naturalGap(left: Word, right: Word, before: AtWord, after: AtWord): Gap {
  const gaps = ownGaps(before.words, left, right)
  const running: Gap = {
    natural: middleOf(
      gaps.filter(({ gap, kind }) => kind === 'within' && gap < PHRASE),
      USUAL.within,
    ),
    least: 0,
    most: RUNNING,
  }
  const { afterLeft, beforeRight, gone } = stoodBeside(left, right, before, after)
  const within = { ...running, natural: Math.min(running.natural, RUNNING / 2) }
  if (isPunctuated(gaps, left)) {
    const kind = byPunctuation(left)
    if (kind === 'within') return within
    const natural = middleOf(
      gaps.filter((one) => one.kind === kind),
      USUAL[kind],
    )
    return { natural, least: Math.round(LEAST_SHARE * natural), most: LONGEST }
  }
  const phrase = phraseFrom(gaps)
  const hesitates = gone.length > 0 && gone.every(isFiller)
  const ended = (afterLeft >= phrase && !hesitates) || (afterLeft >= ENDED && soundsFinal(left, before))
  if (!ended || beforeRight < Math.min(phrase, PHRASE)) return within
  const pauses = gaps.filter(({ gap }) => gap >= phrase)
  if (pauses.length < FEWEST) return { natural: USUAL.sentence, least: Math.round(LEAST_SHARE * USUAL.sentence), most: LONGEST }
  // the pauses between sentences are the longer half of those that end a phrase
  const all = pauses.map(({ gap }) => gap)
  const sentence = share(
    all.filter((gap) => gap >= share(all, 0.4)),
    0.5,
  )
  const there = Math.sqrt(afterLeft * beforeRight)
  // both were pauses between phrases, not sentences
  const usual =
    Math.min(afterLeft, beforeRight) < 0.6 * sentence && !ENDS.test(left.text)
      ? Math.max(Math.round(0.7 * sentence), Math.min(sentence, Math.round(there)))
      : sentence
  const natural = clamp(Math.round(there), Math.min(usual, sentence), share(all, 0.75))
  return { natural, least: Math.round(Math.min(natural, LEAST_SHARE * sentence)), most: Math.max(natural, share(all, 0.9)) }
}
