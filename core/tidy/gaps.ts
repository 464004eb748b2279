import { SPEECH_HANGOVER } from '../hearing/speech'
import { united } from '../stretches'
import { ENDS, type Word } from '../tape/words'
import { milliseconds, type Frames, type Stretch } from '../time'
import { isFiller } from './fillerWords'
import type { Looked } from './finder'

/** The silences between words, or between stretches of speech where there are no words. */

/** Where a silence stands: after a sentence, after part of one, in running speech, or where somebody else begins. */
export type GapKind = 'sentence' | 'clause' | 'within' | 'turn'

export interface SilentGap extends Stretch {
  kind: GapKind
  speaker: string
  /** What was said before it was a question. */
  asked: boolean
}

/** What a word ends with where part of a sentence does. */
const CLAUSE_ENDS = /[,;:–—…]["”’]?$/
/** In words without full stops a pause from here on ends a sentence. */
const SENTENCE: Frames = milliseconds(450)
const CLAUSE: Frames = milliseconds(180)
/** What is shorter is no silence: two words run into each other. */
const SHORTEST: Frames = milliseconds(20)
/** Where no words are known, what is shorter may lie within one. */
const WITHOUT_WORDS: Frames = milliseconds(200)
/** Fewer full stops, and they do not tell where sentences end. */
const FEWEST_STOPS = 3

/** All silences between what is said, in order. */
export function gapsOf(looked: Looked): SilentGap[] {
  const { words } = looked
  if (!words.length) {
    const said = saidIn(looked)
    return said
      .slice(1)
      .map(({ from }, i): SilentGap => ({ from: said[i].to, to: from, kind: 'sentence', speaker: '', asked: false }))
      .filter(({ from, to }) => to - from >= WITHOUT_WORDS)
  }
  const punctuated = words.filter(({ text }) => ENDS.test(text)).length >= FEWEST_STOPS
  const gaps: SilentGap[] = []
  let end = words[0].to
  let last = words[0]
  for (const word of words.slice(1)) {
    if (word.from - end >= SHORTEST) gaps.push({ from: end, to: word.from, ...placeOf(last, word, word.from - end, punctuated) })
    if (word.to > end) {
      end = word.to
      last = word
    }
  }
  return gaps
}

/** Where something is said, on any side: by its words, by its sound, or as far as speech is known. */
export function saidIn({ words, heard, speech }: Looked): Stretch[] {
  if (words.length) return united(words)
  if (heard) return united(heard.flatMap(({ voices }) => voices))
  return speech.map(({ from, to }) => ({ from, to: Math.max(from + 1, to - SPEECH_HANGOVER) }))
}

function placeOf(before: Word, after: Word, length: Frames, punctuated: boolean): Omit<SilentGap, 'from' | 'to'> {
  const speaker = before.speaker ?? ''
  const asked = /\?["”’]?$/.test(before.text)
  if (speaker !== (after.speaker ?? '')) return { kind: 'turn', speaker, asked }
  // what stands beside an um is hesitation, wherever it stands
  if (isFiller(before) || isFiller(after)) return { kind: 'within', speaker, asked }
  const [sentence, clause] = punctuated ? [ENDS.test(before.text), CLAUSE_ENDS.test(before.text)] : [length >= SENTENCE, length >= CLAUSE]
  return { kind: sentence ? 'sentence' : clause ? 'clause' : 'within', speaker, asked }
}
