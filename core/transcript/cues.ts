import { endsPhrase, type Word } from '../tape/words'
import { toFrames, type Frames } from '../time'

/** Words of one speaker that stand together. */
export interface Cue {
  from: Frames
  to: Frames
  speaker: string
  text: string
}

/** Two lines of 42 letters and six seconds are read in their time (EBU-TT-D practice). */
const MOST_LETTERS = 84
const LONGEST = toFrames(6)
const PAUSE = toFrames(0.6)
/** A silence this long begins a new paragraph. */
const LONG_PAUSE = toFrames(2.5)

const textOf = (words: readonly Word[]): string =>
  words.map((word) => (word.what === 'noise' && !word.text.startsWith('(') ? `(${word.text})` : word.text)).join(' ')

function gathered(words: readonly Word[], ends: (group: readonly Word[], next: Word) => boolean): Cue[] {
  const groups: Word[][] = []
  for (const word of words) {
    const group = groups.at(-1)
    if (group && group[0].speaker === word.speaker && !ends(group, word)) group.push(word)
    else groups.push([word])
  }
  return groups.map((group) => ({
    from: group[0].from,
    to: group[group.length - 1].to,
    speaker: group[0].speaker ?? '',
    text: textOf(group),
  }))
}

/** Words as subtitles: short enough to be read in their time, broken where phrases end. */
export function cuesOf(words: readonly Word[]): Cue[] {
  return gathered(
    words,
    (group, next) =>
      textOf([...group, next]).length > MOST_LETTERS ||
      next.to - group[0].from > LONGEST ||
      endsPhrase([group[group.length - 1], next], 0, PAUSE),
  )
}

/** Words as paragraphs: a new one where the speaker changes, or after a long silence. */
export function paragraphsOf(words: readonly Word[]): Cue[] {
  return gathered(words, (group, next) => next.from - group[group.length - 1].to > LONG_PAUSE)
}
