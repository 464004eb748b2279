import { bare } from '../find/bare'
import type { Word } from '../tape/words'

/** Words and phrases that carry nothing, by language. */

const SOUNDS = /^(?:u+m+|u+h+m?|e+r+m?|a+h+m+|h+m+|m+|eh|äh+m?|öh+m?|euh+)$/

/** A sound of hesitation, in any language that writes it so. */
export const isFiller = ({ text, what }: Pick<Word, 'text' | 'what'>): boolean => what === 'filler' || SOUNDS.test(bare(text))

/** Of several words, or words that mean something elsewhere: fillers only where they stand alone. */
export const FILLER_PHRASES: Readonly<Record<string, readonly string[]>> = {
  en: ['you know', 'I mean', 'sort of', 'kind of', 'you see', 'like', 'basically', 'actually', 'right', 'okay'],
  de: ['sozusagen', 'halt', 'quasi', 'irgendwie', 'weißt du', 'ich meine', 'also'],
  fr: ['tu vois', 'vous voyez', 'en fait', 'du coup', 'quoi', 'disons'],
}
