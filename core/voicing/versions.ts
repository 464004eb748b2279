import { alike } from '../align/likeSounds'
import { pronounced, type Dictionary } from '../align/pronounce'
import { spoken } from '../align/spoken'
import type { Word } from '../tape/words'
import type { Stretch } from '../time'

/**
 * Where lines of copy are read in a recording, from words that were heard roughly: by their sounds, since a recogniser mistakes
 * words for others that sound alike. Each line is laid on the recording by local alignment (Smith and Waterman, 1981), again
 * and again until nothing like it is left, so that each time that it was read is found, and a start that was broken off as well.
 */

export interface Line {
  id: string
  text: string
}

/** A run of a line's words that was read in one go: `first` to before `last`, as `text.split(/\s+/)` counts them. */
export interface Part extends Stretch {
  first: number
  last: number
}

/** One time that a line was read. Where it was taken up again within, it has several parts, without what was said twice. */
export interface Version {
  line: string
  parts: Part[]
  /** Share of the line's sounds that are heard, 0 to 1. */
  said: number
}

/** What a sound scores that is the same, that is like it, that is another, that is missing or too much. */
const SAME = 1
const LIKE = 0.4
const OTHER = -0.8
const GAP = -0.7
/** Fewer sounds than these say nothing. */
const LEAST = 7
/** What lies in the way of a better match by more than this share is no match. */
const IN_THE_WAY = 0.3
/** A run of sounds too much, from so many on, may be what was said again. */
const AGAIN = 5
/** Of them so many may happen to be like one in the line. */
const BY_CHANCE = 3
/** And is, where it is at least so much like what stands beside it in the line. */
const AGAIN_LIKE = 0.5
/** A version begins at its line's beginning where no more than this share of it is missing, and is complete from this on. */
const HEAD = 0.15
export const COMPLETE = 0.8

interface Sounds {
  sound: string[]
  /** The word that each belongs to. */
  word: number[]
}

function soundsOf(texts: readonly string[], dictionary: Dictionary): Sounds {
  const all: Sounds = { sound: [], word: [] }
  texts.forEach((text, word) => {
    for (const one of spoken(text)) {
      for (const sound of dictionary(one)[0]?.split(' ') ?? pronounced(one)) {
        all.sound.push(sound)
        all.word.push(word)
      }
    }
  })
  return all
}

const score = (a: string, b: string): number => (a === b ? SAME : alike(a, b) ? LIKE : OTHER)

/** Which sound of the recording each sound of a line is, in order; sounds that are missing are not there. */
interface Match {
  line: string
  score: number
  pairs: Pair[]
}

interface Pair {
  own: number
  heard: number
}

/** The best alignment of a line with what is still free of the recording; null where none is left. */
function best(id: string, own: readonly string[], heard: readonly string[], free: readonly boolean[]): Match | null {
  const width = heard.length + 1
  const value = new Float32Array((own.length + 1) * width)
  let [top, row, column] = [0, 0, 0]
  for (let i = 1; i <= own.length; i++)
    for (let j = 1; j <= heard.length; j++) {
      if (!free[j - 1]) continue
      const at = i * width + j
      const found = Math.max(0, value[at - width - 1] + score(own[i - 1], heard[j - 1]), value[at - width] + GAP, value[at - 1] + GAP)
      value[at] = found
      if (found > top) [top, row, column] = [found, i, j]
    }
  if (top < LEAST) return null
  const pairs: Match['pairs'] = []
  for (let [i, j] = [row, column]; value[i * width + j] > 0;) {
    const at = i * width + j
    if (Math.abs(value[at] - value[at - width - 1] - score(own[i - 1], heard[j - 1])) < 1e-4) {
      pairs.unshift({ own: i - 1, heard: j - 1 })
      i--
      j--
    } else if (Math.abs(value[at] - value[at - width] - GAP) < 1e-4) i--
    else j--
  }
  return { line: id, score: top, pairs }
}

/** All that is like a line in a recording, the best first. */
function matches(id: string, own: readonly string[], heard: readonly string[]): Match[] {
  const free = heard.map(() => true)
  const found: Match[] = []
  for (let match = best(id, own, heard, free); match; match = best(id, own, heard, free)) {
    found.push(match)
    free.fill(false, match.pairs[0].heard, match.pairs[match.pairs.length - 1].heard + 1)
  }
  return found
}

const allOf = (sounds: readonly string[]): boolean[] => sounds.map(() => true)

/** How like one run of sounds is to another, 1 where they are the same. */
function likeness(a: readonly string[], b: readonly string[]): number {
  if (!a.length || !b.length) return 0
  const match = best(
    '',
    a,
    b,
    b.map(() => true),
  )
  return match ? match.score / Math.min(a.length, b.length) : 0
}

/** What stands between two pairs of a match: how many sounds of the recording are too much there. */
const tooMuch = (before: Pair, after: Pair): number => after.heard - before.heard - (after.own - before.own)

/** Where a match has sounds too much, the most first: between neighbours, or over a few pairs that are there by chance. */
function gapsIn(pairs: readonly Pair[]): [before: Pair, after: Pair][] {
  const gaps = pairs.flatMap((after, k) =>
    Array.from({ length: Math.min(k, BY_CHANCE + 1) }, (_, near) => ({ before: pairs[k - near - 1], after, near })),
  )
  return gaps
    .map((gap) => ({ ...gap, much: tooMuch(gap.before, gap.after) }))
    .filter(({ much }) => much >= AGAIN)
    .sort((a, b) => b.much - a.much || a.near - b.near)
    .map(({ before, after }) => [before, after])
}

/** Splits a match where sounds too much in it are said again just before or after: the later time counts. */
function withoutAgain(match: Match, own: readonly string[], heard: readonly string[]): Match[] {
  const { pairs } = match
  const split = (first: Match['pairs'], rest: Match['pairs']): Match[] => [
    ...(first.length ? [{ ...match, pairs: first }] : []),
    ...withoutAgain({ ...match, pairs: rest }, own, heard),
  ]
  for (const [before, after] of gapsIn(pairs)) {
    const extra = heard.slice(before.heard + 1, after.heard)
    const head = pairs.filter(({ own: at }) => at <= before.own)
    const rest = pairs.filter(({ own: at }) => at >= after.own)
    if (likeness(extra, own.slice(before.own + 1, before.own + 1 + extra.length)) >= AGAIN_LIKE) return split(head, rest)
    if (likeness(extra, own.slice(Math.max(0, before.own + 1 - extra.length), before.own + 1)) < AGAIN_LIKE) continue
    // what was matched is the first time: it gives way to what follows it
    const upTo = own.slice(0, after.own)
    const later = (best('', upTo, extra, allOf(extra))?.pairs ?? []).map((pair) => ({ ...pair, heard: pair.heard + before.heard + 1 }))
    return split(
      head.filter((pair) => pair.own < (later[0]?.own ?? Infinity)),
      [...later, ...rest],
    )
  }
  return [match]
}

/** Every time that each line was read, in the order in which they were. `heard`: words with their times, on one tape. */
export function versionsOf(lines: readonly Line[], heard: readonly Word[], dictionary: Dictionary): Version[] {
  const there = soundsOf(
    heard.map(({ text }) => text),
    dictionary,
  )
  const taken = there.sound.map(() => false)
  const texts = new Map(lines.map(({ id, text }) => [id, soundsOf(text.split(/\s+/), dictionary)]))
  const accepted: Match[] = []
  const candidates = lines.flatMap(({ id }) => matches(id, texts.get(id)!.sound, there.sound)).sort((a, b) => b.score - a.score)
  for (const match of candidates) {
    const free = match.pairs.filter(({ heard: at }) => !taken[at])
    if (free.length < (1 - IN_THE_WAY) * match.pairs.length || free.length < LEAST) continue
    for (const { heard: at } of free) taken[at] = true
    accepted.push({ ...match, pairs: free })
  }
  const runs = accepted
    .flatMap((match) => withoutAgain(match, texts.get(match.line)!.sound, there.sound))
    .sort((a, b) => a.pairs[0].heard - b.pairs[0].heard)
  return chained(runs, texts).map((chain) => toVersion(chain, texts.get(chain.line)!, there, heard))
}

interface Chain {
  line: string
  runs: Match['pairs'][]
}

/**
 * Runs of a line that follow one another make one version: one that begins within its line goes on from what was read before it,
 * and that is a version of its own as well where it was complete.
 */
function chained(runs: readonly Match[], texts: ReadonlyMap<string, Sounds>): Chain[] {
  const chains: Chain[] = []
  for (const { line, pairs } of runs) {
    const { sound } = texts.get(line)!
    const before = chains.findLast((chain) => chain.line === line)
    const first = pairs[0].own
    const reached = before?.runs.at(-1)?.at(-1)?.own ?? -1
    if (first <= HEAD * sound.length || !before || reached < first - LEAST) {
      chains.push({ line, runs: [pairs] })
      continue
    }
    const kept = before.runs.map((run) => run.filter(({ own }) => own < first)).filter((run) => run.length)
    if (shareOf(before, sound.length) < COMPLETE) chains.splice(chains.indexOf(before), 1)
    chains.push({ line, runs: [...kept, pairs] })
  }
  return chains
}

const shareOf = ({ runs }: Chain, sounds: number): number => runs.reduce((sum, run) => sum + run.length, 0) / sounds

function toVersion({ line, runs }: Chain, own: Sounds, there: Sounds, heard: readonly Word[]): Version {
  const words = wordsOf(runs, own)
  const parts = runs.flatMap((run, i): Part[] => {
    const mine = run.filter((pair) => words.get(own.word[pair.own]) === i)
    if (!mine.length) return []
    const [from, to] = [there.word[mine[0].heard], there.word[mine[mine.length - 1].heard]]
    return [{ from: heard[from].from, to: heard[to].to, first: own.word[mine[0].own], last: own.word[mine[mine.length - 1].own] + 1 }]
  })
  return { line, parts, said: shareOf({ line, runs }, own.sound.length) }
}

/** To which of the runs each word of a line belongs: to the later one, where two have sounds of it. */
function wordsOf(runs: readonly Match['pairs'][], own: Sounds): Map<number, number> {
  const found = new Map<number, number>()
  runs.forEach((run, i) => run.forEach((pair) => found.set(own.word[pair.own], i)))
  return found
}

/** Of each line the version that counts: the last complete one, else the one of which most is said, the later of two alike. */
export function chosenOf(versions: readonly Version[]): Map<string, Version> {
  const chosen = new Map<string, Version>()
  for (const version of versions) {
    const before = chosen.get(version.line)
    if (!before || version.said >= Math.min(COMPLETE, before.said)) chosen.set(version.line, version)
  }
  return chosen
}
