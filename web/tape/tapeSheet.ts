import { united, without } from '../../core/stretches'
import { milliseconds, type Stretch } from '../../core/time'
import { endsPhrase, type Word } from '../../core/tape/words'
import type { Shade, SheetWord } from '../sheet/paint/model'
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

/** What is struck on a tape and what is off its record, in order, none over another. */
export function tapeShades(strikes: readonly Stretch[], off: readonly Stretch[]): Shade[] {
  const masked = off.map((stretch): Shade => ({ ...stretch, look: 'off' }))
  const struck = united(strikes).flatMap((stretch) => without(stretch, off))
  return [...masked, ...struck.map((stretch): Shade => ({ ...stretch, look: 'struck' }))].sort((a, b) => a.from - b.from)
}
