import { bare } from '../find/bare'
import type { Word } from '../tape/words'
import type { FinderName, Found, Looked } from './finder'
import { FILLER_PHRASES } from './fillerWords'
import { speakerAt, wordFrom } from './bySound'

/** What a newsroom settled once about tidying, for all tapes to come. */

/** Not offered again: what a speaker says so, on any tape of that language, or all of a kind on one tape. */
export type Dismissal = { id: string; finder: FinderName } & (
  | { scope: 'words'; speaker: string; language: string; words: string }
  | { scope: 'tape'; tape: string }
)

export interface TidyRules {
  dismissals: readonly Dismissal[]
  /** Filler words and phrases of the newsroom's own, by language; of a language that has none here the usual ones count. */
  phrases: Readonly<Record<string, readonly string[]>>
}

export const NO_RULES: TidyRules = { dismissals: [], phrases: {} }

/** The filler words and phrases that count in a language, as `bare` writes them. */
export function phrasesIn({ phrases }: TidyRules, language: string): readonly string[] {
  if (Object.hasOwn(phrases, language)) return phrases[language]
  return Object.hasOwn(FILLER_PHRASES, language) ? FILLER_PHRASES[language] : []
}

/** What is said at a place, as `bare` writes it; empty where no whole word lies in it. */
export function saidAt(words: readonly Word[], { from, to }: Pick<Found, 'from' | 'to'>): string {
  const said: string[] = []
  for (let i = wordFrom(words, from); i < words.length && words[i].from < to; i++)
    if (words[i].from >= from && words[i].to <= to) said.push(bare(words[i].text))
  return said.join(' ')
}

/** The dismissal by which something that was found is not offered; null where there is none. */
export function dismissedBy(dismissals: readonly Dismissal[], finder: FinderName, looked: Looked): (found: Found) => Dismissal | null {
  const own = dismissals.filter((one) => one.finder === finder)
  const whole = own.find((one) => one.scope === 'tape' && one.tape === looked.tape)
  if (whole) return () => whole
  const byWords = new Map<string, Dismissal>()
  for (const one of own) if (one.scope === 'words' && one.language === looked.language) byWords.set(`${one.speaker}\n${one.words}`, one)
  if (!byWords.size) return () => null
  return (found) => {
    const said = saidAt(looked.words, found)
    return (said && byWords.get(`${found.speaker ?? speakerAt(looked, found) ?? ''}\n${said}`)) || null
  }
}
