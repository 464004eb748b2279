import { createHash } from 'node:crypto'
import { In } from 'typeorm'
import type { Actuality } from '../../core/edits/actuality'
import { piecePlan } from '../../core/page/plan'
import type { Layout } from '../../core/page/timing'
import type { FactsOf, Plan } from '../../core/render/plan'
import type { MadeOf, Part } from '../../core/send/changedSince'
import { DocumentEntity } from '../entities'
import type { Services } from '../services'

/** A story as it is laid: its blocks, and the pieces in them. */
export interface LaidParts {
  layout: Layout
  pieceOf: (id: string) => Actuality | undefined
}

/**
 * What a plan is made of: its parts with the versions of their pieces, and hashes of what sounds. `what`: what is sent,
 * where it has no blocks.
 */
export async function madeOf(
  { database }: Services,
  plan: Plan,
  factsOf: FactsOf,
  what: { id: string; name: string },
  laid?: LaidParts,
): Promise<MadeOf> {
  const placed = laid?.layout.placed ?? []
  const ids = laid ? placed.flatMap(({ block }) => (block.piece ? [block.piece] : [])) : [what.id]
  const rows = ids.length
    ? await database.manager.find(DocumentEntity, { where: { id: In(ids) }, select: { id: true, revision: true } })
    : []
  const revisions = new Map(rows.map(({ id, revision }) => [id, revision]))
  const parts = placed.map(({ block, words }): Part => {
    const piece = block.piece ? laid!.pieceOf(block.piece) : undefined
    return {
      id: block.id,
      name: piece?.slug || firstWords(block.text) || block.kind,
      words,
      piece: block.piece,
      revision: revisions.get(block.piece ?? '') ?? 0,
      sound: piece ? hashOf(piecePlan(piece, factsOf)) : '',
    }
  })
  const sound = hashOf(plan)
  const alone: Part = { id: what.id, name: what.name, words: plan.length, piece: what.id, revision: revisions.get(what.id) ?? 0, sound }
  return { sound, length: plan.length, parts: laid ? parts : [alone] }
}

const hashOf = (plan: Plan): string => createHash('sha256').update(JSON.stringify(plan)).digest('hex')

/** As much of a line as it is known by. */
const firstWords = (text: string): string => text.trim().split(/\s+/).slice(0, 5).join(' ')
