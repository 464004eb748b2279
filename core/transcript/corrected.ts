import { inPlaceOf } from './around'
import { bare } from '../find/bare'
import { isFiller } from '../recognise/heard'
import { firstWhere } from '../search'
import { toFrames, type Stretch } from '../time'
import type { SaidWord, Transcript, TranscriptStep } from './transcript'

/** How long a word is taken to last that was added where nothing was written. */
const A_WORD = toFrames(0.3)

/** What a word is by how it is written: `(cough)` is a noise, `um` fills a pause. */
function kindOf(text: string): Pick<SaidWord, 'what'> {
  if (/^\(.*\)$/.test(text)) return { what: 'noise' }
  return isFiller(bare(text)) ? { what: 'filler' } : {}
}

/** Written by hand: a guess until somebody has heard it, but nobody's measure of trust. */
function rewritten(word: SaidWord, text: string): SaidWord {
  const { sure: _, checked: __, what: ___, ...rest } = word
  return { ...rest, text, ...kindOf(text) }
}

const tokens = (text: string): string[] =>
  text
    .trim()
    .match(/\([^)]*\)[.,;:!?]*|\S+/g)
    ?.map((token) => token.slice(0, 80)) ?? []

/**
 * Words `first` to `first + count`, of one voice, as they are written now. What was not touched
 * stays as it is; a word that is only spelled otherwise keeps its place on the sound; the rest is
 * put, roughly, in the time of what it stands for. Null where nothing changed. `place`: where words
 * go that stand for none; `voice`: whose they are.
 */
export function corrected(
  { words }: Transcript,
  first: number,
  count: number,
  text: string,
  place: Stretch,
  voice?: string,
): TranscriptStep | null {
  const texts = tokens(text)
  const run = words.slice(first, first + count)
  let head = 0
  while (head < run.length && head < texts.length && run[head].text === texts[head]) head++
  let tail = 0
  while (tail < run.length - head && tail < texts.length - head && run[run.length - 1 - tail].text === texts[texts.length - 1 - tail])
    tail++
  const out = run.slice(head, run.length - tail)
  const written = texts.slice(head, texts.length - tail)
  if (!out.length && !written.length) return null
  const onlySpelled = out.length === written.length && out.every((word, i) => bare(word.text) === bare(written[i]))
  const fresh = onlySpelled
    ? out.map((word, i) => rewritten(word, written[i]))
    : inPlaceOf(out, written, out.length ? place : between(words, first + head, place, written.length)).map((word, i) => ({
        ...word,
        ...(voice && !out.length ? { voice } : {}),
        ...kindOf(written[i]),
      }))
  return { type: 'words', at: first + head, out, in: fresh }
}

/** Room for words that were missed: from where they were put to the next word, no longer than they take. */
function between(words: readonly SaidWord[], at: number, place: Stretch, count: number): Stretch {
  const from = Math.max(place.from, words[at - 1]?.to ?? 0)
  const next = words[at]?.from ?? Infinity
  const to = place.to > place.from ? place.to : from + count * A_WORD
  return { from: Math.min(from, Math.max(0, next - count)), to: Math.max(Math.min(to, next), from + count) }
}

/** Where a word goes in that begins at a frame. */
export const placeFor = ({ words }: Transcript, frame: number): number => firstWhere(words.length, (i) => words[i].from > frame)

/** Words of a transcript, by their places in order, confirmed by whoever heard them, or made a guess again. */
export function confirmed({ words }: Transcript, chosen: readonly number[], right: boolean): TranscriptStep | null {
  if (chosen.every((i) => Boolean(words[i].checked) === right)) return null
  const at = chosen[0]
  const out = words.slice(at, chosen[chosen.length - 1] + 1)
  return {
    type: 'words',
    at,
    out,
    in: out.map((word, i) => {
      if (!chosen.includes(at + i)) return word
      const { checked: _, sure: __, ...rest } = word
      return right ? { ...rest, checked: true as const } : rest
    }),
  }
}
