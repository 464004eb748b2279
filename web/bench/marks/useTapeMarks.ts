import { useMemo, useState } from 'react'
import { toast } from 'sonner'
import type { Actuality } from '../../../core/edits/actuality'
import { toBench, toPiece, type BenchLayout } from '../../../core/edits/benchLayout'
import { spanAt, stands, tapesOf } from '../../../core/edits/editList'
import { pieceMarks } from '../../../core/edits/pieceMarks'
import { marksOf, type TapeStep } from '../../../core/tape/tape'
import { toFrames, type Frames } from '../../../core/time'
import { useTapes } from '../../documents/useTapes'
import { reaction } from '../../marks/reaction'

interface OnBench {
  piece: Actuality
  layout: BenchLayout
  /** Where the playhead stands, on the Sheet. */
  place: () => Frames
  playing: boolean
  goTo: (place: Frames) => void
}

/** Marks of a piece's tapes, seen and made on the Bench: they belong to the tape, and show on every piece that holds their place. */
export function useTapeMarks({ piece, layout, place, playing, goTo }: OnBench) {
  const tapes = useTapes(useMemo(() => tapesOf(piece.spans), [piece.spans]))
  const [fresh, setFresh] = useState<string | null>(null)
  const marks = useMemo(
    () =>
      pieceMarks(piece.spans, (tape) => {
        const live = tapes.get(tape)
        return live ? marksOf(live.body) : []
      }),
    [piece.spans, tapes],
  )
  const onSheet = useMemo(() => marks.map(({ mark, at }) => ({ ...mark, at: toBench(layout, at) })), [marks, layout])

  const act = (tape: string, step: TapeStep, label: string) => tapes.get(tape)?.act([step], { label })
  /** Where the key was pressed, less the time that a hand takes while it plays. */
  const add = (star?: true) => {
    const at = toPiece(layout, Math.max(0, Math.round(place() - (playing ? toFrames(reaction()) : 0))))
    const found = spanAt(piece.spans, at)
    if (!found || !stands(found.span) || !tapes.has(found.span.tape)) return void toast('There is no place of a tape here to mark.')
    const { span, start } = found
    const id = crypto.randomUUID()
    const record = { id, kind: 'mark' as const, at: span.from + at - start, text: '', ...(star ? { star } : {}) }
    act(span.tape, { type: 'put', record }, star ? 'star' : 'mark')
    if (!star) setFresh(id)
  }
  const step = (by: 1 | -1) => {
    const here = place()
    const places = onSheet.map(({ at }) => at).sort((a, b) => a - b)
    const next = by > 0 ? places.find((at) => at > here) : places.filter((at) => at < here - (playing ? toFrames(0.8) : 0)).at(-1)
    if (next !== undefined) goTo(next)
  }
  return {
    marks,
    onSheet,
    fresh,
    onWritten: () => setFresh(null),
    lives: [...tapes.values()],
    rename: (tape: string, id: string, text: string) => act(tape, { type: 'set', id, key: 'text', value: text }, 'write a mark'),
    remove: (tape: string, id: string) => act(tape, { type: 'drop', id }, 'remove a mark'),
    commands: {
      'edit.mark': () => add(),
      'edit.star': () => add(true),
      'play.markBack': () => step(-1),
      'play.markOn': () => step(1),
    },
  }
}
