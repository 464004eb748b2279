import { milliseconds } from '../../core/time'
import { endsPhrase, type Word } from '../../core/tape/words'
import type { SheetWord } from '../sheet/model'

const PHRASE_PAUSE = milliseconds(450)

/** A tape's words as a Sheet shows them. */
export const sheetWords = (words: readonly Word[]): SheetWord[] =>
  words.map((word, i) => ({
    at: word.from,
    end: word.to,
    text: word.text,
    look: word.what ? 'filler' : 'plain',
    speaker: word.speaker ?? '',
    phraseEnd: endsPhrase(words, i, PHRASE_PAUSE),
  }))
