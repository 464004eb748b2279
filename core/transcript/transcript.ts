import type { DocumentType } from '../steps/document'
import type { Word } from '../tape/words'

/** A word as its tape's transcript keeps it: whose it is stands as a voice, which has a name of its own. */
export type SaidWord = Omit<Word, 'speaker'> & { voice?: string }

/** The words of one tape, in the order in which they begin. It changes by steps, as all documents do. */
export interface Transcript {
  kind: 'transcript'
  words: readonly SaidWord[]
  /** What each voice is called. Two that are called the same are one person. */
  voices: Readonly<Record<string, string>>
}

export type TranscriptStep =
  /** The words that stand from `at` on become others. */
  | { type: 'words'; at: number; out: readonly SaidWord[]; in: readonly SaidWord[] }
  /** Words get other times: they were put on the sound. What is written stays as it is. */
  | { type: 'times'; moves: readonly { at: number; was: Timing; now: Timing }[] }
  /** What a voice is called; an undefined name takes it off. */
  | { type: 'voice'; voice: string; name: string | undefined; was: string | undefined }

/** Where a word lies, and what goes with that: a checked word that is put elsewhere is a guess again. */
export type Timing = Pick<SaidWord, 'from' | 'to' | 'rough' | 'checked'>

type WordsStep = Extract<TranscriptStep, { type: 'words' }>
type TimesStep = Extract<TranscriptStep, { type: 'times' }>

export const NO_TRANSCRIPT: Transcript = { kind: 'transcript', words: [], voices: {} }

export const timingOf = ({ from, to, rough, checked }: Timing): Timing => ({
  from,
  to,
  ...(rough ? { rough } : {}),
  ...(checked ? { checked } : {}),
})

const lies = (a: Timing, b: Timing): boolean => a.from === b.from && a.to === b.to && a.rough === b.rough && a.checked === b.checked

const same = (a: SaidWord, b: SaidWord | undefined): boolean =>
  b !== undefined && lies(a, b) && a.text === b.text && a.voice === b.voice && a.what === b.what && a.sure === b.sure

function put(word: SaidWord, now: Timing): SaidWord {
  const { rough: _, checked: __, ...rest } = word
  return { ...rest, ...timingOf(now) }
}

/** Which of two that go in at one place stands first: the earlier one, as everywhere in a transcript. */
function goesFirst(a: WordsStep, b: WordsStep): boolean | null {
  const [x, y] = [a.in[0], b.in[0]]
  if (!x || !y || x.from === y.from) return null
  return x.from < y.from
}

/** How far `over` moves what stands at `step`; null where both touch the same words. */
function shift(step: WordsStep, over: WordsStep): number | null {
  const by = over.in.length - over.out.length
  const [stepEnd, overEnd] = [step.at + step.out.length, over.at + over.out.length]
  if (step.at === over.at && (!step.out.length || !over.out.length)) {
    // what goes in before words that change stays before them
    if (step.out.length) return by
    if (over.out.length) return 0
    const first = goesFirst(step, over)
    return first === null ? null : first ? 0 : by
  }
  if (stepEnd <= over.at) return 0
  return overEnd <= step.at ? by : null
}

/** Words that become others bring along the times that they were given meanwhile. */
function overTimes(step: WordsStep, { moves }: TimesStep): WordsStep {
  const inside = new Map(moves.map(({ at, now }) => [at, now]))
  return step.out.some((_, i) => inside.has(step.at + i))
    ? { ...step, out: step.out.map((word, i) => (inside.has(step.at + i) ? put(word, inside.get(step.at + i)!) : word)) }
    : step
}

/** Words that are others by now need no times. */
function overWords(step: TimesStep, { at, out, in: into }: WordsStep): TimesStep {
  const by = into.length - out.length
  return {
    ...step,
    moves: step.moves
      .filter((move) => move.at < at || move.at >= at + out.length)
      .map((move) => (move.at < at ? move : { ...move, at: move.at + by })),
  }
}

export const transcriptType: DocumentType<Transcript, TranscriptStep> = {
  apply(document, step) {
    if (step.type === 'voice') {
      if (document.voices[step.voice] !== step.was) throw new RangeError('that voice has another name by now')
      const { [step.voice]: _, ...others } = document.voices
      return { ...document, voices: step.name === undefined ? others : { ...others, [step.voice]: step.name } }
    }
    if (step.type === 'times') {
      const words = [...document.words]
      for (const { at, was, now } of step.moves) {
        if (!words[at] || !lies(words[at], was)) throw new RangeError('those words lie elsewhere by now')
        words[at] = put(words[at], now)
      }
      return { ...document, words }
    }
    if (!step.out.every((word, i) => same(word, document.words[step.at + i])) || step.at > document.words.length)
      throw new RangeError('those words are no longer there')
    return { ...document, words: [...document.words.slice(0, step.at), ...step.in, ...document.words.slice(step.at + step.out.length)] }
  },

  invert(_document, step) {
    if (step.type === 'voice') return { ...step, name: step.was, was: step.name }
    if (step.type === 'times') return { ...step, moves: step.moves.map(({ at, was, now }) => ({ at, was: now, now: was })).reverse() }
    return { ...step, out: step.in, in: step.out }
  },

  rebase(step, over) {
    if (step.type === 'voice' || over.type === 'voice')
      return step.type === 'voice' && over.type === 'voice' && step.voice === over.voice ? null : step
    if (over.type === 'times') {
      if (step.type === 'words') return overTimes(step, over)
      return step.moves.some(({ at }) => over.moves.some((move) => move.at === at)) ? null : step
    }
    if (step.type === 'times') return overWords(step, over)
    const by = shift(step, over)
    return by === null || shift(over, step) === null ? null : { ...step, at: step.at + by }
  },
}

const resolved = new WeakMap<Transcript, Word[]>()

/** The words with the names of those who say them. */
export function wordsOf(transcript: Transcript): Word[] {
  let words = resolved.get(transcript)
  if (!words) {
    const { voices } = transcript
    words = transcript.words.map(({ voice, ...word }) => (voice && voices[voice] ? { ...word, speaker: voices[voice] } : word))
    resolved.set(transcript, words)
  }
  return words
}

/** A transcript of words whose speakers are named: one voice a name. */
export function transcriptOf(words: readonly Word[]): Transcript {
  const names = [...new Set(words.flatMap(({ speaker }) => (speaker ? [speaker] : [])))]
  return {
    kind: 'transcript',
    words: words.map(({ speaker, ...word }) => (speaker ? { ...word, voice: `v${names.indexOf(speaker) + 1}` } : word)),
    voices: Object.fromEntries(names.map((name, i) => [`v${i + 1}`, name])),
  }
}
