import { bare } from '../find/bare'
import { pronounced, type Dictionary } from '../align/pronounce'
import { soundDistance } from '../align/likeSounds'
import { spoken } from '../align/spoken'

/** A name or a term that a story's reporter keeps, and how it is said where its spelling does not tell. */
export interface Term {
  text: string
  spoken: string
}

interface Heard {
  text: string
  from: number
  to: number
  sure: number
}

/** How unlike the sounds of what was heard may be to those of a term, as a share of the term's. */
const MOST_UNLIKE = 0.34
/** Shorter ones are too easily heard where they were not said. */
const LEAST_SOUNDS = 4
/** What the recogniser is as sure of stays. */
const SURE = 0.9
const MOST_WORDS = 5

const soundsOf = (words: readonly string[], dictionary: Dictionary): string[] =>
  words.flatMap((word) => dictionary(word)[0]?.split(' ') ?? pronounced(word))

/**
 * Where a recogniser heard something that sounds like one of the story's names or terms, and was
 * not sure of it, the name stands instead. It need not know the word, or how it is spelled.
 */
export function withTerms<W extends Heard>(words: readonly W[], terms: readonly Term[], dictionary: Dictionary): W[] {
  const known = terms
    .map(({ text, spoken: said }) => ({
      text,
      sounds: soundsOf(said ? said.toLowerCase().split(/\s+/).map(bare) : text.split(/\s+/).flatMap(spoken), dictionary),
    }))
    .filter(({ sounds }) => sounds.length >= LEAST_SOUNDS)
  const heard = words.map(({ text }) => soundsOf(spoken(text), dictionary))
  const found: W[] = []
  for (let at = 0; at < words.length;) {
    let best: { text: string; count: number; unlike: number } | null = null
    for (const { text, sounds } of known)
      for (let count = 1; count <= MOST_WORDS && at + count <= words.length; count++) {
        const run = words.slice(at, at + count)
        if (Math.min(...run.map(({ sure }) => sure)) >= SURE && bare(run.map((word) => word.text).join('')) !== bare(text)) continue
        const unlike = soundDistance(heard.slice(at, at + count).flat(), sounds) / sounds.length
        if (unlike <= MOST_UNLIKE && (!best || unlike < best.unlike)) best = { text, count, unlike }
      }
    if (!best) found.push(words[at++])
    else {
      const run = words.slice(at, at + best.count)
      found.push(...apportioned(run, best.text.split(/\s+/), 1 - best.unlike))
      at += best.count
    }
  }
  return found
}

/** The words of a name over the time in which it was heard, each by its letters. */
function apportioned<W extends Heard>(run: readonly W[], texts: readonly string[], sure: number): W[] {
  const [from, to] = [run[0].from, run[run.length - 1].to]
  const all = texts.reduce((sum, text) => sum + text.length, 0)
  let letters = 0
  return texts.map((text) => {
    const start = from + ((to - from) * letters) / all
    letters += text.length
    return { ...run[0], text, from: start, to: from + ((to - from) * letters) / all, sure: Math.round(sure * 100) / 100 }
  })
}
