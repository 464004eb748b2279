import { isFiller, type HeardWord } from './heard'

/** What a model answers that gives pieces of words with the times at which they begin, in seconds. */
export interface TokenAnswer {
  tokens: readonly string[]
  timestamps: readonly number[]
  /** Natural logarithms of each piece's probability, where the model gives them. */
  ys_log_probs?: readonly number[]
}

/** A piece that begins a word starts with one of these: the sign of SentencePiece, or a blank. */
const BEGINS = /^[▁ ]/
/** A last piece has no successor to end it. */
const LAST = 0.2
const LONGEST = 1.2
const UNKNOWN = 0.5

/** Pieces as words: the model's capitals become small letters where it knows no other. */
export function wordsOfTokens({ tokens, timestamps, ys_log_probs }: TokenAnswer, seconds: number): HeardWord[] {
  const words: { text: string; from: number; last: number; logs: number[] }[] = []
  tokens.forEach((token, i) => {
    const text = token.replace(BEGINS, '')
    const word = words.at(-1)
    if (!word || BEGINS.test(token)) words.push({ text, from: timestamps[i], last: timestamps[i], logs: [] })
    else {
      word.text += text
      word.last = timestamps[i]
    }
    if (ys_log_probs) words[words.length - 1].logs.push(ys_log_probs[i])
  })
  const shouting = words.every(({ text }) => text === text.toUpperCase())
  return words.flatMap(({ text: read, from, last, logs }, i): HeardWord[] => {
    const text = shouting ? read.toLowerCase().replace(/^i(?='|$)/, 'I') : read
    if (!text) return []
    const next = words[i + 1]?.from ?? Math.min(seconds, last + LAST)
    const sure = logs.length ? Math.exp(logs.reduce((sum, log) => sum + log, 0) / logs.length) : UNKNOWN
    return [
      {
        text,
        from,
        to: Math.max(from + 0.02, Math.min(next, last + LAST, from + LONGEST)),
        sure: Math.round(sure * 100) / 100,
        ...(isFiller(text.toLowerCase()) ? { what: 'filler' as const } : {}),
      },
    ]
  })
}
