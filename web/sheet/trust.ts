import type { Word } from '../../core/tape/words'
import type { SheetWord } from './paint/model'

/** Below this the recogniser was not sure. */
const SURE = 0.45

/** How far a word can be trusted. */
export const trustOf = (word: Pick<Word, 'checked' | 'sure'>): SheetWord['trust'] =>
  word.checked ? 'checked' : word.sure !== undefined && word.sure < SURE ? 'unsure' : 'guess'
