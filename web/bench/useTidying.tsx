import { useMemo } from 'react'
import type { TapeInfo } from '../../contract/tapes'
import { toBench, type BenchLayout } from '../../core/edits/benchLayout'
import { tapesOf } from '../../core/edits/editList'
import { placesIn } from '../../core/tidy/decide'
import { marked } from '../tidy/onSheet'
import { TidyPanel } from '../tidy/TidyPanel'
import { useHeard } from '../tidy/useHeard'
import { useRules } from '../tidy/useRules'
import { useTidy } from '../tidy/useTidy'
import { useKept } from '../ui/useKept'
import type { Bench } from './bench'
import { usePieceTidy } from './usePieceTidy'

/** Tidying the piece on the Bench: the panel beside it, the marks on its lines, and what keys mean while a place is looked at. */
export function useTidying(bench: Bench, tapes: readonly TapeInfo[], layout: BenchLayout) {
  const { spans } = bench.piece
  const [open, setOpen] = useKept(`${bench.owner}/tidy`, false)
  const used = tapesOf(spans)
  const { heard, listening } = useHeard(
    tapes.filter(({ id }) => used.includes(id)),
    open,
  )
  const rules = useRules()
  const target = usePieceTidy(bench, tapes, heard, rules.rules)
  const tidy = useTidy(target, rules, open, setOpen)
  const { places, place, kind } = tidy
  const found = useMemo(
    () =>
      open
        ? marked(places, kind.name, place, (one) => {
            const [at] = placesIn(spans, one)
            return at ? { from: toBench(layout, at.from), to: toBench(layout, at.to) } : null
          })
        : undefined,
    [open, places, kind.name, place, spans, layout],
  )
  const atPlace = bench.passages.length ? null : tidy.onPlace
  return {
    open,
    found,
    panel: open && <TidyPanel tidy={tidy} wordsOf={bench.wordsOf} listening={listening} />,
    commands: {
      ...tidy.commands,
      ...(atPlace
        ? {
            'edit.takeOut': atPlace.takeOut,
            'edit.holdTime': atPlace.hold,
            'edit.bringBack': atPlace.bringBack,
            'play.across': atPlace.across,
            'play.before': atPlace.before,
            ...atPlace.changes,
          }
        : {}),
    },
  }
}
