import { milliseconds } from '../../core/time'
import { endsPhrase, type Word } from '../../core/tape/words'
import type { SheetWord } from '../sheet/paint/model'
import { trustOf } from '../sheet/trust'

const PHRASE_PAUSE = milliseconds(450)

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
