import { firstWhere } from '../search'
import type { Frames } from '../time'

/** A word, or a sound that stands among the words, with its place on the tape. */
export interface Word {
  text: string
  from: Frames
  to: Frames
  /** Which side of the tape, or which voice on it, said it. */
  speaker?: string
  /** `word` where it is left out. */
  what?: 'filler' | 'noise'
  /** 0 to 1: how sure the recogniser was of it. Left out where a person wrote it. */
  sure?: number
  /** Its times are guessed from those around it; it is about to be put on the sound. */
  rough?: true
  /** A person has heard and confirmed it; until then it is a guess. */
  checked?: true
}

/** The first word that ends after a frame; the count of words where there is none. Words lie in order. */
export const firstWordAfter = (words: readonly Word[], frame: Frames): number => firstWhere(words.length, (i) => words[i].to > frame)

/** The word that a frame lies in, its first frame left out; null between words. */
export function wordAround(words: readonly Word[], frame: Frames): Word | null {
  const word = words[firstWordAfter(words, frame)]
  return word && word.from < frame ? word : null
}

/** The words of which at least half lies in `[from, to)`. */
export function wordsIn(words: readonly Word[], from: Frames, to: Frames): Word[] {
  const found: Word[] = []
  for (let i = firstWordAfter(words, from); i < words.length && words[i].from < to; i++) {
    const word = words[i]
    const inside = Math.min(word.to, to) - Math.max(word.from, from)
    if (inside * 2 >= word.to - word.from) found.push(word)
  }
  return found
}

/** What a word ends with where a sentence does. */
export const ENDS = /[.?!…]["”’]?$/

/** Whether a phrase ends with this word: at a stop, or where at least `pause` frames pass before the next. */
export function endsPhrase(words: readonly Word[], index: number, pause: Frames): boolean {
  const next = words[index + 1]
  return !next || ENDS.test(words[index].text) || next.from - words[index].to >= pause || next.speaker !== words[index].speaker
}

const spoken = (words: readonly Word[]) => words.filter((word) => word.what !== 'noise')

/** The first words as an in cue. */
export const inCue = (words: readonly Word[], count = 4): string =>
  spoken(words)
    .slice(0, count)
    .map((word) => word.text)
    .join(' ')

/** The last words as an out cue. */
export const outCue = (words: readonly Word[], count = 4): string =>
  spoken(words)
    .slice(-count)
    .map((word) => word.text)
    .join(' ')

/** In cue and out cue in one line; the whole of what is short. */
export const cueLine = (words: readonly Word[]): string => (words.length > 7 ? `${inCue(words)} … ${outCue(words, 3)}` : inCue(words, 7))

/** The words of whoever says most of them: a “Yeah” of somebody else names nothing. */
function bySpeaker(words: readonly Word[]): readonly Word[] {
  const counts = new Map<string, number>()
  for (const { speaker } of words) counts.set(speaker ?? '', (counts.get(speaker ?? '') ?? 0) + 1)
  const [most] = [...counts].sort((a, b) => b[1] - a[1])
  return words.filter(({ speaker }) => (speaker ?? '') === most?.[0])
}

/** A slug from the words: the first few that carry meaning. */
export function suggestSlug(all: readonly Word[]): string {
  const words = bySpeaker(all)
  const small = new Set('a an and the of to in on at it is was i we you he she they so but that this my our um uh er well'.split(' '))
  const bare = words.filter((word) => !word.what).map((word) => word.text.replace(/[^\p{L}\p{N}'’-]/gu, ''))
  const start = bare.findIndex((text) => text && !small.has(text.toLowerCase()))
  const picked = bare.slice(Math.max(0, start), Math.max(0, start) + 3).filter(Boolean)
  const text = picked.join(' ')
  return text ? text[0].toUpperCase() + text.slice(1) : ''
}
