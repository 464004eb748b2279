import type { SaidWord, Transcript } from './transcript'
import { toFrames, type Frames, type Stretch } from '../time'

/** Words that are to be put on the sound, with those of their neighbours that may move with them. */
export interface Unplaced {
  /** Their places in the transcript, in order. */
  words: number[]
  stretch: Stretch
}

/** How far into a silence beside a word it is looked for. */
const REACH: Frames = toFrames(0.6)

/** The runs of words whose times are guessed, each with the stretch of sound that they must lie in. */
export function unplaced({ words }: Transcript, length: Frames): Unplaced[] {
  const runs: Unplaced[] = []
  const seen = new Set<number>()
  const beside = (at: number, by: 1 | -1): number | null => {
    for (let i = at + by; i >= 0 && i < words.length; i += by) if (words[i].voice === words[at].voice && words[i].what !== 'noise') return i
    return null
  }
  words.forEach((word, first) => {
    if (!word.rough || seen.has(first)) return
    const run = [first]
    for (let next = beside(first, 1); next !== null && words[next].rough; next = beside(next, 1)) run.push(next)
    run.forEach((at) => seen.add(at))
    const before = beside(first, -1)
    const after = beside(run[run.length - 1], 1)
    const reach = (limit: Frames, edge: Frames, by: 1 | -1) => (by < 0 ? Math.max(limit, edge - REACH) : Math.min(limit, edge + REACH))
    // a neighbour that nobody confirmed may have been put wrongly, on this side, by what was wrong here
    const moves = (at: number | null): at is number =>
      at !== null && !words[at].checked && Math.abs(words[at].from - word.from) < toFrames(3)
    const from = moves(before) ? words[before].from : reach(before === null ? 0 : words[before].to, word.from, -1)
    const last = words[run[run.length - 1]]
    const to = moves(after) ? words[after].to : reach(after === null ? length : words[after].from, last.to, 1)
    runs.push({ words: [...(moves(before) ? [before] : []), ...run, ...(moves(after) ? [after] : [])], stretch: { from, to } })
  })
  return runs
}

/** What words found on the sound become: a neighbour's far edge stays, so that nothing passes what lies beyond. */
export function placed(
  transcript: Transcript,
  { words }: Pick<Unplaced, 'words'>,
  places: readonly (Stretch | null)[],
): { at: number; place: Stretch }[] {
  return words.flatMap((at, i) => {
    const { from, to, rough } = transcript.words[at]
    const found = places[i] ?? { from, to }
    const place = rough ? found : i === 0 ? { from, to: found.to } : { from: found.from, to }
    return rough || place.to > place.from ? [{ at, place }] : []
  })
}

/** Words in the place of others, in their time: each gets of it by its letters, until it is put on the sound. */
export function inPlaceOf(out: readonly SaidWord[], texts: readonly string[], place: Stretch): SaidWord[] {
  const from = out[0]?.from ?? place.from
  const to = Math.max(out.at(-1)?.to ?? place.to, from + texts.length)
  const voice = out[0]?.voice
  const all = texts.reduce((sum, text) => sum + text.length, 0)
  let letters = 0
  return texts.map((text, i) => {
    const start = Math.round(from + ((to - from) * letters) / all)
    letters += text.length
    const end = i === texts.length - 1 ? to : Math.round(from + ((to - from) * letters) / all)
    return { text, from: start, to: Math.max(start + 1, end), ...(voice ? { voice } : {}), rough: true as const }
  })
}
