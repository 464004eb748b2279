import { useMemo } from 'react'
import { clipLength, type Actuality } from '../../../core/edits/actuality'
import { tapesOf } from '../../../core/edits/editList'
import { lay } from '../../../core/page/lay'
import { outputPlan, piecePlan } from '../../../core/page/plan'
import type { Plan } from '../../../core/render/plan'
import { saidIn } from '../../../core/page/said'
import { hangersOf, offcutsOf, piecesIn, spineOf, storyHead, type StoryDocument } from '../../../core/page/story'
import type { LengthOf } from '../../../core/page/timing'
import type { PieceRow } from '../../../contract/desk'
import { useFacts, useStoryPieces } from '../../api/queries'
import { useSame } from '../../api/useSame'

export type Mode = 'rehearse' | 'sent'

const NONE: readonly PieceRow[] = []

/** The tapes that sound on a page, in its pieces and beside them. */
const tapesOn = (body: StoryDocument, known: ReadonlyMap<string, Actuality>): string[] =>
  [
    ...new Set([
      ...piecesIn(body).flatMap((piece) => tapesOf(known.get(piece)?.spans ?? [])),
      ...hangersOf(body).flatMap(({ plays }) => ('tape' in plays ? plays.tape : [])),
    ]),
  ].sort()

/** All that a page comes to in one of its outputs (the first where none is named), worked out anew whenever anything in it changes. */
export function usePage(id: string, body: StoryDocument, mode: Mode, wanted: string | null = null) {
  const { data } = useStoryPieces(id)
  const rows = useSame(data ?? NONE)
  const known = useMemo(() => new Map<string, Actuality>(rows.map((row) => [row.id, row.body])), [rows])
  const head = storyHead(body)
  const offcuts = useMemo(() => offcutsOf(body), [body])
  const facts = useFacts(useMemo(() => tapesOn(body, known), [body, known]))
  const lengthOf: LengthOf = useMemo(
    () => (piece) => {
      const found = known.get(piece)
      return found && { length: clipLength(found), head: found.head, tail: found.tail }
    },
    [known],
  )
  const saidOf = useMemo(
    () => (piece: string) => {
      const found = known.get(piece)
      return found && facts ? saidIn(found, facts.wordsOf) : undefined
    },
    [known, facts],
  )
  const outputs = useMemo(() => lay(body, { lengthOf, saidIn: saidOf }), [body, saidOf, lengthOf])
  const { output, order: spine, air, file } = outputs.find((one) => one.output.id === wanted) ?? outputs[0]
  /** Blocks of the page that are not in this output. */
  const leftOut = useMemo(() => spineOf(body).filter((block) => !spine.some(({ id: there }) => there === block.id)), [body, spine])
  const layout = mode === 'rehearse' ? air : file
  const plan = useMemo(
    () => (facts ? outputPlan(layout, output, (piece) => known.get(piece), facts.factsOf) : null),
    [facts, layout, output, known],
  )
  const filePlan = useMemo(
    () => (facts ? (layout === file ? plan : outputPlan(file, output, (piece) => known.get(piece), facts.factsOf)) : null),
    [facts, layout, file, plan, output, known],
  )
  /** Of each piece by itself. */
  const plans = useMemo(() => {
    if (!facts) return new Map<string, Plan>()
    const there = [...known].filter(([, piece]) => piece.spans.every((span) => facts.factsOf(span.tape).frames > 0))
    return new Map(there.map(([key, piece]) => [key, piecePlan(piece, facts.factsOf)]))
  }, [known, facts])
  return {
    head,
    outputs,
    output,
    /** Whether it is the one that the page is made for; others have it otherwise. */
    isFirst: output === outputs[0].output,
    leftOut,
    spine,
    offcuts,
    known,
    rows,
    facts,
    air,
    file,
    layout,
    plan,
    plans,
    filePlan,
    lengthOf,
    saidOf,
    ready: Boolean(data && facts),
  }
}
