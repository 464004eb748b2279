import { useMemo } from 'react'
import { clipLength, type Actuality } from '../../core/edits/actuality'
import { tapesOf } from '../../core/edits/editList'
import { pagePlan } from '../../core/page/plan'
import { blocksOf, offcutsOf, spineOf, storyHead, type StoryDocument } from '../../core/page/story'
import { inFile, onAir, type LengthOf, type Unrecorded } from '../../core/page/timing'
import type { PieceRow } from '../../contract/desk'
import { useFacts, useStoryPieces } from '../api/queries'
import { useSame } from '../api/useSame'

export type Mode = 'rehearse' | 'sent'

const NONE: readonly PieceRow[] = []

/** All that a page comes to, worked out anew whenever anything in it changes. */
export function usePage(id: string, body: StoryDocument, mode: Mode, unrecorded: Unrecorded) {
  const { data } = useStoryPieces(id)
  const rows = useSame(data ?? NONE)
  const known = useMemo(() => new Map<string, Actuality>(rows.map((row) => [row.id, row.body])), [rows])
  const head = storyHead(body)
  const spine = useMemo(() => spineOf(body), [body])
  const offcuts = useMemo(() => offcutsOf(body), [body])
  const tapes = useMemo(
    () => [...new Set(blocksOf(body).flatMap((block) => (block.piece && tapesOf(known.get(block.piece)?.spans ?? [])) || []))].sort(),
    [body, known],
  )
  const facts = useFacts(tapes)
  const lengthOf: LengthOf = useMemo(
    () => (id) => {
      const piece = known.get(id)
      return piece && { length: clipLength(piece), head: piece.head, tail: piece.tail }
    },
    [known],
  )
  const air = useMemo(() => onAir(spine, lengthOf), [spine, lengthOf])
  const file = useMemo(() => inFile(spine, lengthOf, unrecorded), [spine, lengthOf, unrecorded])
  const layout = mode === 'rehearse' ? air : file
  const plan = useMemo(() => (facts ? pagePlan(layout, (id) => known.get(id), facts.factsOf) : null), [facts, layout, known])
  return { head, spine, offcuts, known, rows, facts, air, file, layout, plan, lengthOf, ready: Boolean(data && facts) }
}
