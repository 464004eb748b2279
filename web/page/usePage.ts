import { useMemo } from 'react'
import { clipLength, type Actuality } from '../../core/edits/actuality'
import { tapesOf } from '../../core/edits/editList'
import { pagePlan } from '../../core/page/plan'
import { blocksOf, offcutsOf, spineOf, storyHead, type StoryDocument } from '../../core/page/story'
import { inFile, onAir, type LengthOf, type Unrecorded } from '../../core/page/timing'
import { useFacts, usePieces } from '../api/queries'

export type Mode = 'rehearse' | 'sent'

/** All that a page comes to, worked out anew whenever anything in it changes. */
export function usePage(body: StoryDocument, mode: Mode, unrecorded: Unrecorded) {
  const pieces = usePieces()
  const rows = pieces.data
  const known = useMemo(() => new Map<string, Actuality>(rows?.map((row) => [row.id, row.body])), [rows])
  const head = storyHead(body)
  const spine = useMemo(() => spineOf(body), [body])
  const offcuts = useMemo(() => offcutsOf(body), [body])
  const tapes = useMemo(() => [...new Set(blocksOf(body).flatMap((block) => (block.piece && tapesOf(known.get(block.piece)?.spans ?? [])) || []))].sort(), [body, known])
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
  return { head, spine, offcuts, known, rows: rows ?? [], facts, air, file, layout, plan, lengthOf, ready: Boolean(rows && facts) }
}
