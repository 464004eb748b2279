import type { SaidWord, Transcript, TranscriptStep } from '../transcript/transcript'
import type { Frames } from '../time'
import type { Turn } from './tellApart'

/** The voice that speaks for most of a word, or nearest to it. */
function voiceAt(turns: readonly Turn[], from: Frames, to: Frames): number {
  let best = turns[0].voice
  let most = -Infinity
  for (const turn of turns) {
    const both = Math.min(to, turn.to) - Math.max(from, turn.from)
    if (both > most) {
      most = both
      best = turn.voice
    }
  }
  return best
}

/** Steps that give words without a voice the voices that were told apart, called `Voice 1`, `Voice 2`; none where there is one alone. */
export function suggested({ words, voices }: Transcript, turns: readonly Turn[]): TranscriptStep[] {
  if (new Set(turns.map(({ voice }) => voice)).size < 2) return []
  if (words.some((word) => word.voice)) return []
  const named = new Set<string>()
  const next = words.map((word): SaidWord => {
    const voice = `v${voiceAt(turns, word.from, word.to) + 1}`
    named.add(voice)
    return { ...word, voice }
  })
  if (named.size < 2) return []
  return [
    ...[...named]
      .sort()
      .filter((voice) => voices[voice] === undefined)
      .map((voice): TranscriptStep => ({ type: 'voice', voice, name: `Voice ${voice.slice(1)}`, was: undefined })),
    { type: 'words', at: 0, out: words, in: next },
  ]
}

/** Steps that say whose some words are: a voice that there is, or one of that name. */
export function givenTo({ words, voices }: Transcript, indices: readonly number[], name: string): TranscriptStep[] {
  const known = Object.keys(voices).find((voice) => voices[voice] === name)
  let voice = known
  for (let i = 1; !voice; i++) if (voices[`v${i}`] === undefined && !words.some((word) => word.voice === `v${i}`)) voice = `v${i}`
  const moved = indices.filter((i) => words[i].voice !== voice)
  if (!moved.length) return []
  const first = moved[0]
  const last = moved[moved.length - 1]
  const chosen = new Set(moved)
  const out = words.slice(first, last + 1)
  return [
    ...(known ? [] : [{ type: 'voice', voice: voice!, name, was: undefined } as const]),
    { type: 'words', at: first, out, in: out.map((word, i) => (chosen.has(first + i) ? { ...word, voice } : word)) },
  ]
}
