import { useMemo } from 'react'
import type { TapeInfo } from '../../contract/tapes'
import type { Actuality, ActualityStep } from '../../core/edits/actuality'
import { tapesOf } from '../../core/edits/editList'
import type { WordsOf } from '../../core/edits/pieceWords'
import type { FactsOf } from '../../core/render/plan'
import { SPOKEN } from '../../core/tape/tape'
import type { Suggestion } from '../../core/tape/suggestion'
import { applyIn } from '../../core/tidy/decide'
import type { Looked } from '../../core/tidy/finder'
import { phrasesIn, type TidyRules } from '../../core/tidy/rules'
import type { HeardSide } from '../../core/tidy/listen/side'
import type { Stretch } from '../../core/time'
import { author } from '../documents/waiting'
import type { Sought } from './useKinds'

interface OfPiece {
  spans: Actuality['spans']
  tapes: readonly TapeInfo[]
  heard: ReadonlyMap<string, readonly HeardSide[] | null>
  factsOf: FactsOf
  wordsOf: WordsOf
  offOf: (tape: string) => readonly Stretch[]
  rules: TidyRules
}

const NOTHING: readonly Stretch[] = []

/** What finders look at of a piece: all that its tapes tell of their speakers, and only where the piece still says it. */
export function usePieceSought({ spans, tapes, heard, factsOf, wordsOf, offOf, rules }: OfPiece): readonly Sought[] {
  const used = tapesOf(spans)
  // what a piece keeps of its tapes changes with each edit, what is looked at does not
  const looks = useMemo(
    () =>
      used.map((tape): Looked => {
        const info = tapes.find(({ id }) => id === tape)
        const language = info?.language ?? SPOKEN
        return {
          tape,
          frames: factsOf(tape).frames,
          words: wordsOf(tape),
          speech: NOTHING,
          language,
          phrases: phrasesIn(rules, language),
          sides: (info?.sides ?? []).map(({ name }) => name),
          heard: heard.get(tape) ?? null,
        }
      }),
    // oxlint-disable-next-line react-hooks/exhaustive-deps
    [used.join(' '), tapes, heard, factsOf, wordsOf, rules.phrases],
  )
  return useMemo(
    () =>
      looks.map((looked) => {
        const within = spans.filter((span) => span.tape === looked.tape && span.sound === 'tape' && !span.patch)
        return { looked, gone: NOTHING, off: offOf(looked.tape), holds: true, within }
      }),
    // oxlint-disable-next-line react-hooks/exhaustive-deps
    [spans, looks],
  )
}

/** The act by which a piece takes what a suggestion proposes. `changed`: a person changed it. */
export const applyingIn =
  (changed?: boolean) =>
  (suggestion: Suggestion) =>
  (now: Actuality, act: string): ActualityStep[] => [
    { type: 'keep', step: { type: 'put', record: suggestion } },
    ...applyIn(now, suggestion, { by: author, at: suggestion.at, act, changed }),
  ]
