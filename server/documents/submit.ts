import type { DataSource, EntityManager } from 'typeorm'
import type { AnyStep, LoggedEntry, Verdict } from '../../contract/documents'
import type { Actuality, ActualityStep } from '../../core/edits/actuality'
import { applyAndInvert, exchange } from '../../core/steps/document'
import type { Entry } from '../../core/steps/history'
import { DocumentEntity, EntryEntity, TapeEntity, type EntryRow } from '../entities'
import { tell } from '../notices'
import { notFound, Refusal } from '../problem'
import { documentTypes } from './types'

export const toLogged = (row: EntryRow): LoggedEntry => ({
  revision: row.revision,
  id: row.id,
  author: row.author,
  label: row.label,
  steps: row.steps,
  inverse: row.inverse,
  ...(row.undoes ? { undoes: row.undoes } : {}),
  ...(row.quiet ? { quiet: true } : {}),
})

export async function logSince(manager: EntityManager, document: string, revision: number): Promise<LoggedEntry[]> {
  const rows = await manager
    .createQueryBuilder(EntryEntity, 'entry')
    .where('entry.document = :document and entry.revision > :revision', { document, revision })
    .orderBy('entry.revision')
    .getMany()
  return rows.map(toLogged)
}

/**
 * Takes one act into a document, in one transaction: rebased over what came in since the revision
 * that it was made against, or refused where both touch the same place. An act that is in already
 * is taken again without effect, so that it can safely be sent twice.
 */
export function submit(database: DataSource, id: string, base: number, entry: Omit<Entry<AnyStep>, 'inverse'>): Promise<Verdict> {
  return database.transaction(async (manager) => {
    const row = await manager.findOne(DocumentEntity, { where: { id }, lock: { mode: 'pessimistic_write' } })
    if (!row) throw notFound('What you are working on')
    const since = await logSince(manager, id, Math.min(base, row.revision))
    const before = await manager.findOneBy(EntryEntity, { id: entry.id })
    if (before && before.document !== id) throw new Refusal(409, 'Twice the same', 'That act belongs to something else.')
    if (before) return { taken: true, revision: before.revision, since }

    const type = documentTypes[row.kind]
    let steps = entry.steps
    for (const other of since) {
      const rebased = exchange(type, steps, other.steps)
      if (!rebased) return { taken: false, reason: 'Somebody changed the same place first, so your last act was left out. You see the newer state.', since }
      steps = rebased.mine
    }
    await checkReferences(manager, steps)
    let done
    try {
      done = applyAndInvert(type, row.body, steps)
    } catch (error) {
      if (error instanceof RangeError) return { taken: false, reason: `That no longer fits: ${error.message}.`, since }
      throw error
    }
    if (row.kind === 'actuality' && !(done.document as Actuality).spans.length)
      return { taken: false, reason: 'A piece cannot be empty; set it aside instead.', since }
    const revision = row.revision + 1
    await manager.insert(EntryEntity, {
      id: entry.id,
      document: id,
      revision,
      author: entry.author,
      label: entry.label,
      steps: steps as object[],
      inverse: done.inverse as object[],
      undoes: entry.undoes ?? null,
      quiet: entry.quiet ?? false,
    })
    await manager.update(DocumentEntity, { id }, { body: done.document as object, revision, changed: new Date() })
    await tell(manager, { about: 'document', id, kind: row.kind, revision })
    return { taken: true, revision, since }
  })
}

/** Spans must lie on tapes that are there, within their length. */
async function checkReferences(manager: EntityManager, steps: readonly AnyStep[]): Promise<void> {
  const ends = new Map<string, number>()
  for (const step of steps as ActualityStep[])
    if (step.type === 'replace') for (const span of step.insert) ends.set(span.tape, Math.max(ends.get(span.tape) ?? 0, span.to))
  await checkTapes(manager, ends)
}

export async function checkTapes(manager: EntityManager, ends: Map<string, number>): Promise<void> {
  for (const [id, end] of ends) {
    const tape = await manager.findOneBy(TapeEntity, { id })
    if (!tape) throw new Refusal(422, 'No such tape', 'It refers to a tape that is not there.')
    if (tape.state === 'ready' && end > tape.frames) throw new Refusal(422, 'Past the end', 'It reaches past the end of the tape.')
  }
}
