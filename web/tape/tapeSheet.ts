import { milliseconds } from '../../core/time'
import { endsPhrase, type Word } from '../../core/tape/words'
import type { SheetWord } from '../sheet/model'

const PHRASE_PAUSE = milliseconds(450)

/** Below this the recogniser was not sure. */
const SURE = 0.45

export const trustOf = (word: Pick<Word, 'checked' | 'sure'>): SheetWord['trust'] =>
  word.checked ? 'checked' : word.sure !== undefined && word.sure < SURE ? 'unsure' : 'guess'

/** A tape's words as a Sheet shows them. */
export const sheetWords = (words: readonly Word[]): SheetWord[] =>
  words.map((word, i) => ({
    at: word.from,
    end: word.to,
    text: word.text,
    look: word.what ? 'filler' : 'plain',
    speaker: word.speaker ?? '',
    trust: trustOf(word),
    phraseEnd: endsPhrase(words, i, PHRASE_PAUSE),
  }))
