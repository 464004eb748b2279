import { bare } from '../find/bare'
import { ENDS, type Word } from '../tape/words'
import { toFrames, type Frames, type Stretch } from '../time'
import { saidIn } from './gaps'
import type { Finder, Found, Looked } from './finder'

/**
 * Where nothing is said for long: within a tape, before its first sentence and after its last one. What people say before they
 * begin and once they are done (“are we rolling?”) belongs to it.
 */

/** From here on a silence is no pause of a speaker. */
export const DEAD_AIR: Frames = toFrames(5)
/** How much is left of it beside what is said. */
const EASE: Frames = toFrames(0.5)
/** At an end of the tape less is already too much. */
const AT_ENDS: Frames = toFrames(2)
/** Chatter lies within this of an end of the tape, and stands apart by a pause. */
const CHATTER_WITHIN: Frames = toFrames(45)
const APART: Frames = toFrames(0.7)

/** What is said around a recording, and not for it. */
const anyOf = (phrases: string): RegExp => new RegExp(`\\b(?:${phrases})\\b`)
const CHATTER: Readonly<Record<string, RegExp>> = {
  en: anyOf(
    "are we (?:rolling|recording|on)|is (?:this|it) (?:on|recording|rolling|working)|(?:we're|we are) (?:rolling|recording)|testing|" +
      '(?:sound|mic|level) check|check one two|one two three|shall we (?:start|begin)|ready when you are|did you get (?:that|it)|' +
      "are we done|is that (?:it|enough|okay|ok|all right)|that's (?:it|all|great)|stop (?:the )?recording",
  ),
  de: anyOf("läuft (?:das|es|die aufnahme)|nehmen wir (?:schon )?auf|test(?: eins)?|eins zwei drei|können wir|sind wir fertig|war's das"),
  fr: anyOf("ça (?:tourne|enregistre|marche)|on (?:tourne|enregistre|commence)|un deux trois|test micro|c'est bon"),
}

export const deadAir: Finder = (looked) => {
  const said = saidIn(looked)
  const { head, tail } = chatterOf(looked)
  return {
    setting: { unit: 's', least: 2, most: 20, step: 0.5, usual: DEAD_AIR / toFrames(1) },
    find: (seconds) =>
      said.length ? [...atEnds(looked, said, head, tail), ...within(said, toFrames(seconds))].sort((a, b) => a.from - b.from) : [],
  }
}

const found = (from: Frames, to: Frames, goes: Stretch): Found => ({ from, to, proposes: { do: 'takeOut', goes, room: 0 }, sure: 1 })

function within(said: readonly Stretch[], longer: Frames): Found[] {
  return said.slice(1).flatMap(({ from: end }, i): Found[] => {
    const from = said[i].to
    if (end - from < Math.max(longer, 3 * EASE)) return []
    return [found(from, end, { from: from + EASE, to: end - EASE })]
  })
}

/** What lies before the first sentence and after the last one; chatter is passed over. */
function atEnds({ frames }: Looked, said: readonly Stretch[], head: Frames, tail: Frames): Found[] {
  const first = said.find(({ from }) => from >= head)?.from ?? 0
  const last = said.findLast(({ to }) => to <= tail)?.to ?? frames
  const at: Found[] = []
  if (first > AT_ENDS || head > 0) at.push(found(0, first, { from: 0, to: Math.max(1, first - EASE) }))
  if (frames - last > AT_ENDS || tail < frames) at.push(found(last, frames, { from: Math.min(frames - 1, last + EASE), to: frames }))
  return at
}

/** Where chatter at the head ends, and where that at the tail begins. */
function chatterOf({ words, frames, language }: Looked): { head: Frames; tail: Frames } {
  const pattern = Object.hasOwn(CHATTER, language) ? CHATTER[language] : null
  let [head, tail] = [0, frames]
  if (!pattern) return { head, tail }
  const phrases = phrasesOf(words)
  for (const phrase of phrases) {
    if (phrase.to > CHATTER_WITHIN || !pattern.test(phrase.text)) continue
    head = phrase.to
  }
  for (const phrase of phrases.toReversed()) {
    if (phrase.from < frames - CHATTER_WITHIN || phrase.from <= head || !pattern.test(phrase.text)) continue
    tail = phrase.from
  }
  return { head, tail }
}

/** Words in short phrases: by sentences and by pauses. */
function phrasesOf(words: readonly Word[]): (Stretch & { text: string })[] {
  const phrases: (Stretch & { text: string })[] = []
  words.forEach((word, i) => {
    const before = words[i - 1]
    const last = phrases.at(-1)
    if (last && before && !ENDS.test(before.text) && word.from - before.to < APART) {
      last.to = word.to
      last.text += ` ${bare(word.text)}`
    } else phrases.push({ from: word.from, to: word.to, text: bare(word.text) })
  })
  return phrases
}
