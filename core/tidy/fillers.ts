import { bare } from '../find/bare'
import { turnsMeaning } from '../edits/warnings'
import { ENDS, type Word } from '../tape/words'
import { Covering } from '../stretches'
import { milliseconds, type Frames, type Stretch } from '../time'
import { onSides } from './bySound'
import { isFiller } from './fillerWords'
import type { Finder, Found, Looked } from './finder'
import { saidIn } from './gaps'
import { throughSides } from './throughSides'

/**
 * Sounds of hesitation, and words and phrases that carry nothing where they stand alone: by the pauses around them, or by
 * commas where somebody wrote them. One of the pauses beside a filler goes with it, the longer one stays.
 */

/** A phrase stands alone where such a pause lies before it and after it, in frames. */
const ALONE: Frames = milliseconds(120)
/** What stands before something that is put in, and ends it. */
const LEANS = /[,–—…]["”’]?$/
/** A pause as long as this is a rest by itself, and no part of the hesitation. */
const REST: Frames = milliseconds(1200)

export const fillers: Finder = (looked) => {
  const all = [...soundsOf(looked), ...phrasesOf(looked), ...hesitationsOf(looked)].sort((a, b) => a.from - b.from)
  const through = throughSides(looked, all)
  return { setting: null, find: () => through }
}

const found = (looked: Looked, first: number, last: number, sure: number): Found => {
  const { words } = looked
  const [from, to] = [words[first].from, words[last].to]
  const { speaker } = words[first]
  return { from, to, ...(speaker ? { speaker } : {}), proposes: { do: 'takeOut', goes: whatGoes(looked, first, last), room: 0 }, sure }
}

/** The filler with the shorter of the pauses beside it. */
function whatGoes({ words, frames }: Looked, first: number, last: number): Stretch {
  const [from, to] = [words[first].from, words[last].to]
  const [left, right] = [words[first - 1]?.to ?? 0, words[last + 1]?.from ?? frames]
  return withShorterPause(from, to, left, right)
}

function withShorterPause(from: Frames, to: Frames, left: Frames, right: Frames): Stretch {
  const [before, after] = [Math.max(0, from - left), Math.max(0, right - to)]
  if (before >= after) return { from, to: after < REST ? Math.max(to, right) : to }
  return { from: before < REST ? Math.min(from, left) : from, to }
}

const soundsOf = (looked: Looked): Found[] =>
  looked.words.flatMap((word, i) => (isFiller(word) ? [found(looked, i, i, word.checked || word.sure === undefined ? 1 : word.sure)] : []))

/** Sounds of hesitation that nobody wrote down: heard where no word is, or on a tape that has none. */
function hesitationsOf(looked: Looked): Found[] {
  const written = new Covering(looked.words)
  const voices = (looked.heard ?? []).map((side) => new Covering(side.voices))
  const said = saidIn(looked)
  return onSides(looked, ({ hesitations }, index) =>
    hesitations.flatMap(({ from, to, sure }): Found[] => {
      if (written.of({ from, to }) || voices.some((one, i) => i !== index && one.of({ from, to }))) return []
      return [{ from, to, proposes: { do: 'takeOut', goes: betweenWords(looked, said, from, to), room: 0 }, sure }]
    }),
  )
}

/** A sound with the shorter of the pauses beside it, as far as what is said before it and behind it is known. */
function betweenWords({ frames }: Looked, said: readonly Stretch[], from: Frames, to: Frames): Stretch {
  const left = said.findLast((one) => one.to <= from)?.to ?? 0
  const right = said.find((one) => one.from >= to)?.from ?? frames
  return withShorterPause(from, to, left, right)
}

function phrasesOf(looked: Looked): Found[] {
  const { words, language } = looked
  const phrases = looked.phrases.map((phrase) => phrase.split(' ').map(bare))
  return words.flatMap((_, i): Found[] => {
    const phrase = phrases.find((some) => some.every((text, k) => words[i + k] && bare(words[i + k].text) === text))
    if (!phrase) return []
    const last = i + phrase.length - 1
    const said = words.slice(i, last + 1)
    if (
      said.some(isFiller) ||
      !standsAlone(words, i, last) ||
      turnsMeaning(
        said.map(({ text }) => text),
        language,
      )
    )
      return []
    return [found(looked, i, last, 0.7)]
  })
}

/** Whether nothing of the sentence leans on it: pauses or commas on both sides, and the same speaker. An answer stands alone too. */
function standsAlone(words: readonly Word[], first: number, last: number): boolean {
  const [before, after] = [words[first - 1], words[last + 1]]
  // at an end it may be an answer, or what the sentence comes to
  if (!before || !after || before.speaker !== words[first].speaker || after.speaker !== words[last].speaker) return false
  if (ENDS.test(words[last].text)) return false
  const open = LEANS.test(before.text) || (words[first].from - before.to >= ALONE && !ENDS.test(before.text))
  return open && (LEANS.test(words[last].text) || after.from - words[last].to >= ALONE)
}
