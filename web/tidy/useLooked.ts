import { useMemo } from 'react'
import type { TapeInfo } from '../../contract/tapes'
import { SPOKEN, tapeHead, type TapeDocument } from '../../core/tape/tape'
import type { Word } from '../../core/tape/words'
import type { Looked } from '../../core/tidy/finder'
import type { HeardSide } from '../../core/tidy/listen/side'
import { phrasesIn, type TidyRules } from '../../core/tidy/rules'
import type { Stretch } from '../../core/time'

interface OfTape {
  tape: Pick<TapeInfo, 'id' | 'frames'>
  body: TapeDocument
  words: readonly Word[]
  speech: readonly Stretch[]
  /** Null until somebody has listened. */
  heard: readonly HeardSide[] | null
  rules: TidyRules
}

/** What finders look at of a tape; the same object for as long as nothing of it changes. */
export function useLooked({ tape: { id, frames }, body, words, speech, heard, rules }: OfTape): Looked {
  const { language = SPOKEN, sides } = tapeHead(body)
  return useMemo(
    () => ({
      tape: id,
      frames,
      words,
      speech,
      language,
      phrases: phrasesIn(rules, language),
      sides: sides.map(({ name }) => name),
      heard,
    }),
    [id, frames, words, speech, language, sides, heard, rules],
  )
}
