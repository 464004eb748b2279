import { useMemo } from 'react'
import type { TapeInfo } from '../../contract/tapes'
import type { WordsOf } from '../../core/edits/pieceWords'
import type { FactsOf } from '../../core/render/plan'
import { tapeHead, type Strike, type TapeDocument } from '../../core/tape/tape'
import { RATE, type Frames, type Stretch } from '../../core/time'
import type { LiveDocument } from '../documents/liveDocument'
import { lacksOf } from '../tidy/lacks'
import { marked } from '../tidy/onSheet'
import { TidyPanel } from '../tidy/TidyPanel'
import { useHeard } from '../tidy/useHeard'
import { useLooked } from '../tidy/useLooked'
import { useTapeTidy } from '../tidy/useTapeTidy'
import { useRules } from '../tidy/useRules'
import { useTidy } from '../tidy/useTidy'
import { useKept } from '../ui/useKept'

interface OnSheet {
  tape: TapeInfo
  live: LiveDocument<'tape'>
  body: TapeDocument
  strikes: readonly Strike[]
  off: readonly Stretch[]
  speech: readonly Stretch[] | undefined
  factsOf: FactsOf
  wordsOf: WordsOf
  goTo: (frame: Frames) => void
  /** Nothing is selected, so that keys may mean the place that is looked at. */
  free: boolean
}

const NO_SPEECH: readonly Stretch[] = []
/** What is silent at the end of a tape that is still arriving may go on: so much of it is not offered yet, in frames. */
const UNSETTLED: Frames = 5 * RATE

/** What nothing is offered of: what is off the record, and the end of a tape that is still arriving. */
function useSettled({ state, frames }: TapeInfo, off: readonly Stretch[]): readonly Stretch[] {
  return useMemo(() => (state === 'arriving' ? [...off, { from: Math.max(0, frames - UNSETTLED), to: frames }] : off), [state, frames, off])
}

/** Tidying the tape on the Sheet: the panel beside it, the marks on its lines, and what keys mean while a place is looked at. */
export function useTidying({ tape, live, body, strikes, off, speech = NO_SPEECH, factsOf, wordsOf, goTo, free }: OnSheet) {
  const { id } = tape
  const { sides } = tapeHead(body)
  const [open, setOpen] = useKept(`tape/${id}/tidy`, false)
  const { heard, listening } = useHeard([{ ...tape, sides }], open)
  const words = wordsOf(id)
  const rules = useRules()
  const looked = useLooked({ tape, body, words, speech, heard: heard.get(id) ?? null, rules: rules.rules })
  const target = useTapeTidy({ looked, live, body, strikes, off: useSettled(tape, off), factsOf, wordsOf, goTo })
  const tidy = useTidy(target, rules, open, setOpen)
  const { places, place, kind } = tidy
  const found = useMemo(
    () => (open ? marked(places, kind.name, place, ({ from, to }) => ({ from, to })) : undefined),
    [open, places, kind.name, place],
  )
  return {
    open,
    found,
    panel: open && <TidyPanel tidy={tidy} wordsOf={wordsOf} listening={listening} lacks={lacksOf(looked)} />,
    commands: tidy.commands,
    atPlace: free ? tidy.onPlace : null,
  }
}
