import { useMemo, useRef } from 'react'
import { clipLength, type Actuality } from '../../../core/edits/actuality'
import { lay } from '../../../core/page/lay'
import { onlyLane } from '../../../core/page/onlyLane'
import { outputPlan, piecePlan } from '../../../core/page/plan'
import type { FactsOf, Plan } from '../../../core/render/plan'
import { saidIn } from '../../../core/page/said'
import { tapesOn } from '../../../core/page/tapesOn'
import { offcutsOf, othersIn, spineOf, storyHead, type StoryDocument } from '../../../core/page/story'
import { pacesOn, type LengthOf } from '../../../core/page/timing'
import type { PieceRow } from '../../../contract/desk'
import { useFacts, useStoryPieces } from '../../api/queries'
import { useSame } from '../../api/useSame'
import { useAbsentPieces } from './useAbsentPieces'
import { useKept } from '../../ui/useKept'

export type Mode = 'rehearse' | 'sent'
export type Facts = NonNullable<ReturnType<typeof useFacts>>

const NONE: readonly PieceRow[] = []

/** All that a page comes to in one of its outputs (the first where none is named), worked out anew whenever anything in it changes. */
export function usePage(id: string, body: StoryDocument, mode: Mode, wanted: string | null = null) {
  const { data } = useStoryPieces(id)
  const rows = useSame(data ?? NONE)
  const known = useMemo(() => new Map<string, Actuality>(rows.map((row) => [row.id, row.body])), [rows])
  useAbsentPieces(id, body, data ? known : null)
  const head = storyHead(body)
  const offcuts = useMemo(() => offcutsOf(body), [body])
  const facts = useFacts(useMemo(() => tapesOn(body, (piece) => known.get(piece)?.spans), [body, known]))
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
  const paces = useMemo(() => pacesOn(spine, lengthOf), [spine, lengthOf])
  /** Blocks of the page that are not in this output. */
  const leftOut = useMemo(() => spineOf(body).filter((block) => !spine.some(({ id: there }) => there === block.id)), [body, spine])
  const others = useMemo(() => othersIn(body, output.id), [body, output.id])
  const layout = mode === 'rehearse' ? air : file
  /** A lane that is listened to by itself; never sent so. */
  const [solo, setSolo] = useKept<string | null>(`page/${id}/solo`, null)
  const soloed = layout.hangers.some(({ lane }) => lane.id === solo) ? solo : null
  const heard = useMemo(() => (soloed ? onlyLane(layout, soloed) : layout), [layout, soloed])
  const plan = useMemo(
    () => (facts ? outputPlan(heard, output, (piece) => known.get(piece), facts.factsOf) : null),
    [facts, heard, output, known],
  )
  const filePlan = useMemo(
    () => (facts ? (heard === file ? plan : outputPlan(file, output, (piece) => known.get(piece), facts.factsOf)) : null),
    [facts, heard, file, plan, output, known],
  )
  /** Of each piece by itself; one that has not changed has the plan that it had. */
  const made = useRef(new WeakMap<Actuality, { facts: FactsOf; plan: Plan }>())
  const plans = useMemo(() => {
    const all = new Map<string, Plan>()
    if (!facts) return all
    for (const [key, piece] of known) {
      if (piece.spans.some((span) => facts.factsOf(span.tape).frames === 0)) continue
      let held = made.current.get(piece)
      if (held?.facts !== facts.factsOf) held = { facts: facts.factsOf, plan: piecePlan(piece, facts.factsOf) }
      made.current.set(piece, held)
      all.set(key, held.plan)
    }
    return all
  }, [known, facts])
  return {
    head,
    outputs,
    output,
    /** Whether it is the one that the page is made for; others have it otherwise. */
    isFirst: output === outputs[0].output,
    leftOut,
    /** What blocks have otherwise in this output than on the page. */
    others,
    spine,
    offcuts,
    known,
    rows,
    facts,
    air,
    file,
    layout,
    plan,
    paces,
    solo: soloed,
    setSolo,
    plans,
    filePlan,
    lengthOf,
    saidOf,
    ready: Boolean(data && facts),
  }
}
