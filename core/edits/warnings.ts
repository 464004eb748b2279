import { bare } from '../find/bare'
import { ENDS, type Word } from '../tape/words'
import type { Frames } from '../time'

/** What a cut may have changed of the meaning, told by the words that went. */
export interface Warning {
  kind: WarningKind
  /** The words themselves, as they were said; none for answers that were joined. */
  words: string[]
}

export type WarningKind = 'negation' | 'condition' | 'number' | 'question' | 'attribution' | 'answers joined'
type Signs = [WarningKind, RegExp][]

const anyOf = (words: string): RegExp => new RegExp(`^(?:${words.split(' ').join('|')})$`, 'iu')

/** The words that bear meaning, by language. A question is known by its mark in any of them. */
const SIGNS: Record<string, Signs> = {
  en: [
    ['negation', anyOf("no not never nobody none nothing neither nor nowhere without hardly cannot \\w+n['’]t")],
    ['condition', anyOf('if unless except provided until although though however only might perhaps maybe probably would could')],
    [
      'number',
      anyOf(
        '.*\\d.* one two three four five six seven eight nine ten eleven twelve \\w+teen twenty thirty forty fifty sixty ' +
          'seventy eighty ninety hundred thousand million billion half third quarter percent dozen',
      ),
    ],
    [
      'attribution',
      anyOf(
        'say says said told tell tells according claims? claimed thinks? believes? reckons? heard asked wrote apparently ' +
          'allegedly reportedly',
      ),
    ],
  ],
  de: [
    ['negation', anyOf('nein nicht nie niemals niemand nichts keine? keine[mnrs] weder nirgends ohne kaum')],
    ['condition', anyOf('wenn falls sofern außer bis obwohl obgleich jedoch nur vielleicht wohl wahrscheinlich würden? könnten?')],
    [
      'number',
      anyOf(
        '.*\\d.* eins? eine[mnrs]? zwei drei vier fünf sechs sieben acht neun zehn elf zwölf \\w+zehn \\w+zig hundert ' +
          'tausend millionen? milliarden? halb drittel viertel prozent dutzend',
      ),
    ],
    ['attribution', anyOf('sagt sagte gesagt erzählt erzählte laut behauptet behauptete meint glaubt gehört fragte schrieb angeblich')],
  ],
  fr: [
    ['negation', anyOf("non ne pas jamais personne rien ni nulle sans guère aucune? n['’]\\w+")],
    ['condition', anyOf('si sauf jusque bien quoique cependant seulement peut-être probablement serait pourrait')],
    [
      'number',
      anyOf(
        '.*\\d.* une? deux trois quatre cinq six sept huit neuf dix onze douze treize quatorze quinze seize vingt trente ' +
          'quarante cinquante soixante cent mille millions? milliards? demi tiers quart pourcent douzaine',
      ),
    ],
    ['attribution', anyOf('dit disait selon prétend pense croit entendu demandé écrit apparemment')],
  ],
}

/** Whether words of a language can be warned of; elsewhere only questions and joined answers can. */
export const knowsLanguage = (language: string): boolean => Object.hasOwn(SIGNS, language)

/** Whether words hold a negation or a number, without which a sentence says something else. */
export function turnsMeaning(texts: readonly string[], language: string): boolean {
  const signs = Object.hasOwn(SIGNS, language) ? SIGNS[language] : []
  return signs.some(([kind, sign]) => (kind === 'negation' || kind === 'number') && texts.some((text) => sign.test(bare(text))))
}

/** A pause that ends a sentence where nobody wrote a full stop, in frames. */
const SENTENCE_PAUSE: Frames = 33_600

/** What is left of a sentence around a cut: the kept words before it back to the sentence's start, and after it to its end. */
export function sentenceAround(before: readonly Word[], after: readonly Word[]): Word[] {
  const kept: Word[] = []
  for (let i = before.length - 1; i >= 0; i--) {
    const next = before[i + 1]
    if (ENDS.test(before[i].text) || (next && next.from - before[i].to > SENTENCE_PAUSE)) break
    kept.unshift(before[i])
  }
  for (const [i, word] of after.entries()) {
    const last = after[i - 1]
    if (last && word.from - last.to > SENTENCE_PAUSE) break
    kept.push(word)
    if (ENDS.test(word.text)) break
  }
  return kept
}

/**
 * What a cut may have changed of the meaning. `gone`: the words that went; `left`: the kept words of the
 * same sentence, in which a word that still stands is no matter; `beside`: who speaks on both sides.
 */
export function warningsOf(
  gone: readonly Word[],
  left: readonly Word[],
  beside: { before?: Word; after?: Word },
  language: string,
): Warning[] {
  const standing = new Set(left.map(({ text }) => bare(text)))
  const signs = Object.hasOwn(SIGNS, language) ? SIGNS[language] : []
  const found: Warning[] = []
  for (const [kind, sign] of signs) {
    const words = gone.filter(({ text }) => sign.test(text.replace(/^[^\p{L}\p{N}]+|[^\p{L}\p{N}]+$/gu, '')) && !standing.has(bare(text)))
    if (words.length) found.push({ kind, words: words.map(({ text }) => text) })
  }
  const question = gone.filter(({ text }) => /\?/.test(text))
  if (question.length) found.push({ kind: 'question', words: question.map(({ text }) => text) })
  const { before, after } = beside
  const between = gone.some(({ speaker }) => speaker && before?.speaker && speaker !== before.speaker)
  if (between && before?.speaker === after?.speaker) found.push({ kind: 'answers joined', words: [] })
  return found
}
