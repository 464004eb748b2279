import { bare } from '../find/bare'
import { ENDS, type Word } from '../tape/words'
import { milliseconds, toFrames, type Frames } from '../time'
import { isFiller } from './fillerWords'
import type { Finder, Found, Looked, Take } from './finder'
import { throughSides } from './throughSides'

/**
 * Sentences said again, whole or as far as they went, at once or minutes later. The last complete take stays. Takes are told
 * by their words: the earlier one says nearly nothing that the later one does not say in the same order.
 */

/** A pause this long ends a sentence, where no full stop does. */
const SENTENCE: Frames = milliseconds(450)
/** Fewer words than this are no take; said again later, more are needed to tell a take from a phrase that somebody likes. */
const [FEWEST, FEWEST_LATER] = [4, 6]
/** Of the earlier take's words so many come again; and the later one begins as it did. */
const AGAIN = 0.8
/** A take that says so much of the longest one is complete. */
const COMPLETE = 0.9
/** How many sentences lie between takes that follow at once, and how much later one may still be said again. */
const AT_ONCE = 2
const LATER: Frames = toFrames(600)

interface Sentence {
  /** The words, bare; fillers are passed over. */
  texts: string[]
  words: readonly Word[]
}

export const retakes: Finder = (looked) => {
  const all = throughSides(looked, retakesOf(looked))
  return { setting: null, find: () => all }
}

/** Words in sentences: by full stops, by pauses, and by who speaks. */
function sentencesOf(words: readonly Word[]): Sentence[] {
  const sentences: Sentence[] = []
  let first = 0
  for (let i = 1; i <= words.length; i++) {
    const [before, after] = [words[i - 1], words[i]]
    const ends = !after || ENDS.test(before.text) || after.from - before.to >= SENTENCE || (before.speaker ?? '') !== (after.speaker ?? '')
    if (!ends) continue
    const own = words.slice(first, i)
    const texts = own.filter((word) => !isFiller(word) && word.what !== 'noise').map(({ text }) => bare(text))
    if (texts.length) sentences.push({ texts: texts.filter(Boolean), words: own })
    first = i
  }
  return sentences
}

/** A run of words in which somebody began anew without a pause that tells: each beginning is a take of its own. */
function begunAgain(sentence: Sentence): Sentence[] {
  const { words } = sentence
  const said = words.map((word, i) => ({ i, text: bare(word.text) })).filter(({ i }) => !isFiller(words[i]) && words[i].what !== 'noise')
  for (let at = FEWEST; at + FEWEST <= said.length; at++) {
    if (!Array.from({ length: FEWEST }, (_, k) => said[k].text === said[at + k].text).every(Boolean)) continue
    // all that was said until then is said again
    const again = said.slice(at, 2 * at)
    if (
      inOrder(
        said.slice(0, at).map(({ text }) => text),
        again.map(({ text }) => text),
      ) <
      AGAIN * at
    )
      continue
    const cut = said[at].i
    const part = (from: number, to: number): Sentence => ({
      words: words.slice(from, to),
      texts: said.filter(({ i }) => i >= from && i < to).map(({ text }) => text),
    })
    return [part(0, cut), ...begunAgain(part(cut, words.length))]
  }
  return [sentence]
}

function retakesOf(looked: Looked): Found[] {
  const sentences = sentencesOf(looked.words).flatMap(begunAgain)
  // by how they begin, so that an hour is not held against itself
  const beginning = new Map<string, number[]>()
  const keyOf = ({ texts }: Sentence) => texts.slice(0, 2).join(' ')
  sentences.forEach((one, i) => beginning.set(keyOf(one), [...(beginning.get(keyOf(one)) ?? []), i]))
  const all: Found[] = []
  /** The takes that a sentence belongs to: those that its first one found. */
  const together = new Map<number, number[]>()
  sentences.forEach((one, i) => {
    if (one.texts.length < FEWEST) return
    const soon = Array.from({ length: AT_ONCE }, (_, k) => i + 1 + k)
    const later = (beginning.get(keyOf(one)) ?? []).filter((k) => k > i + AT_ONCE)
    const takes = [...soon, ...later].filter((k) => sentences[k] && isAgain(one, sentences[k], k - i <= AT_ONCE))
    if (!takes.length) return
    const longest = Math.max(one.texts.length, ...takes.map((k) => sentences[k].texts.length))
    const kept = takes.findLast((k) => sentences[k].texts.length >= COMPLETE * longest)
    // the only complete one stays, wherever it is
    if (kept === undefined) return
    const before = together.get(i)
    const group = before?.includes(kept) ? before : [i, ...takes]
    for (const k of group) if (!together.has(k)) together.set(k, group)
    all.push({
      ...foundAs(looked, one, sentences[i + 1]),
      takes: group.map((k) => takeOf(looked, sentences[k], sentences[k + 1], k === kept)),
    })
  })
  return all
}

function isAgain(one: Sentence, other: Sentence, atOnce: boolean): boolean {
  const [from, to] = [one.words[0], other.words[0]]
  if ((from.speaker ?? '') !== (to.speaker ?? '') || to.from - from.from > LATER) return false
  if (one.texts.length < (atOnce ? FEWEST : FEWEST_LATER) || other.texts.length < COMPLETE * one.texts.length) return false
  const same = inOrder(one.texts, other.texts.slice(0, one.texts.length + 2))
  return same >= (atOnce ? AGAIN : COMPLETE) * one.texts.length
}

/** How many words two takes have in the same order (longest common subsequence). */
function inOrder(a: readonly string[], b: readonly string[]): number {
  let row = new Int32Array(b.length + 1)
  for (const text of a) {
    const now = new Int32Array(b.length + 1)
    for (let j = 1; j <= b.length; j++) now[j] = text === b[j - 1] ? row[j - 1] + 1 : Math.max(row[j], now[j - 1])
    row = now
  }
  return row[b.length]
}

function takeOf(looked: Looked, sentence: Sentence, next: Sentence | undefined, stays: boolean): Take {
  const [{ from, to, side, proposes }] = throughSides(looked, [foundAs(looked, sentence, next)])
  return { from, to, stays, proposes, ...(side === undefined ? {} : { side }) }
}

/** The take, with the pause behind it. */
function foundAs({ frames }: Looked, { words }: Sentence, next: Sentence | undefined): Found {
  const [from, to] = [words[0].from, words[words.length - 1].to]
  const { speaker } = words[0]
  const goes = { from, to: Math.max(to, Math.min(next?.words[0].from ?? to, frames)) }
  return { from, to, ...(speaker ? { speaker } : {}), proposes: { do: 'takeOut', goes, room: 0 }, sure: 0.9 }
}
