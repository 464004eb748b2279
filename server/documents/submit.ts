import { In, type DataSource, type EntityManager } from 'typeorm'
import type { Notice } from '../../contract/desk'
import { faultsIn, type AnyStep, type Body, type LoggedEntry, type Verdict } from '../../contract/documents'
import type { ActualityStep } from '../../core/edits/actuality'
import type { Transcript, TranscriptStep } from '../../core/transcript/transcript'
import type { EditList } from '../../core/edits/editList'
import { meets, offRecord, type TapeDocument } from '../../core/tape/tape'
import { applyAndInvert, exchange } from '../../core/steps/document'
import type { Entry } from '../../core/steps/history'
import { DocumentEntity, EntryEntity, TapeEntity, type DocumentRow, type EntryRow } from '../entities'
import { filePhrases } from '../find/phrases'
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
  ...(row.together ? { together: row.together } : {}),
  at: row.at.toISOString(),
})

/** What listeners are told of a document that changed. */
export const changed = ({ id, kind, revision, tape }: Pick<DocumentRow, 'id' | 'kind' | 'revision' | 'tape'>): Notice =>
  kind === 'transcript' ? { about: 'document', id, kind, revision, tape: tape! } : { about: 'document', id, kind, revision }

/** Where the log begins that one author needs to undo by: before their first act; at the end where they have none. */
export async function ownFrom(manager: EntityManager, document: string, author: string): Promise<number> {
  const [row] = (await manager.query(
    'select coalesce(min(e.revision) - 1, d.revision) as since from document d left join entry e on e.document = d.id and e.author = $2 where d.id = $1 group by d.revision',
    [document, author],
  )) as { since: number }[]
  return row?.since ?? 0
}

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
      if (!rebased) return { taken: false, reason: 'Somebody changed the same place first, so your last edit was not applied.', since }
      steps = rebased.mine
    }
    if (row.kind === 'transcript') await checkPlaces(manager, row.tape!, steps as TranscriptStep[])
    else await checkReferences(manager, steps)
    const taken = await take(manager, row, entry, steps)
    return typeof taken === 'number' ? { taken: true, revision: taken, since } : { taken: false, reason: taken.reason, since }
  })
}

/**
 * Changes a document from within, by steps made for it as it is in that moment. One with the same
 * id that is in already is not made again. Gives whether the document is there.
 */
export function amend<B extends Body, S extends AnyStep>(
  database: DataSource,
  id: string,
  entry: Omit<Entry<S>, 'inverse' | 'steps'>,
  make: (body: B, manager: EntityManager) => S[] | Promise<S[]>,
): Promise<boolean> {
  return database.transaction(async (manager) => {
    const row = await manager.findOne(DocumentEntity, { where: { id }, lock: { mode: 'pessimistic_write' } })
    if (!row) return false
    if (await manager.existsBy(EntryEntity, { id: entry.id })) return true
    const steps = await make(row.body as B, manager)
    if (!steps.length) return true
    const taken = await take(manager, row, entry, steps)
    if (typeof taken !== 'number') throw new RangeError(taken.reason)
    return true
  })
}

/** Applies steps that fit the locked row, and keeps the act; gives the new revision, or why it cannot be. */
async function take(
  manager: EntityManager,
  row: DocumentRow,
  entry: Omit<Entry<AnyStep>, 'inverse' | 'steps'>,
  steps: AnyStep[],
): Promise<number | { reason: string }> {
  let done
  try {
    done = applyAndInvert(documentTypes[row.kind], row.body, steps)
  } catch (error) {
    if (error instanceof RangeError) return { reason: `That cannot be done: ${error.message}.` }
    throw error
  }
  // a record is whole after each act, whatever single properties were set
  const faults = row.kind === 'actuality' ? [] : faultsIn(row.kind, done.document, steps)
  if (faults.length) throw new Refusal(400, 'Not understood', `What was sent does not make sense: ${faults.slice(0, 3).join('; ')}.`)
  const { id } = row
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
    together: entry.together ?? null,
  })
  await manager.update(DocumentEntity, { id }, { body: done.document as object, revision, changed: new Date() })
  if (row.kind === 'transcript') await filePhrases(manager, row.tape!, done.document as Transcript)
  await tell(manager, changed({ ...row, revision }))
  return revision
}

/** Words lie on their tape. */
async function checkPlaces(manager: EntityManager, tape: string, steps: readonly TranscriptStep[]): Promise<void> {
  const end = Math.max(
    0,
    ...steps.flatMap((step) =>
      step.type === 'words' ? step.in.map(({ to }) => to) : step.type === 'times' ? step.moves.map(({ now }) => now.to) : [],
    ),
  )
  if (end) await checkTapes(manager, new Map([[tape, end]]))
}

async function checkReferences(manager: EntityManager, steps: readonly AnyStep[]): Promise<void> {
  await checkSpans(
    manager,
    (steps as ActualityStep[]).flatMap((step) => (step.type === 'replace' ? step.insert : [])),
  )
}

/** Spans must lie on tapes that are there, within their length, and over nothing that was said off the record. */
export async function checkSpans(manager: EntityManager, spans: EditList): Promise<void> {
  const ends = new Map<string, number>()
  const reach = (tape: string, end: number) => ends.set(tape, Math.max(ends.get(tape) ?? 0, end))
  for (const { tape, to, sound, patch } of spans) {
    // added room is as long as it is wanted, wherever its tape ends
    reach(tape, sound === 'room' ? 0 : to)
    if (patch) reach(patch.tape, patch.to)
  }
  await checkTapes(manager, ends)
  const documents = ends.size ? await manager.findBy(DocumentEntity, { id: In([...ends.keys()]), kind: 'tape' }) : []
  for (const { id, body } of documents) {
    const off = offRecord(body as TapeDocument)
    const taken = spans.flatMap((span) => [...(span.sound === 'tape' ? [span] : []), ...(span.patch ? [span.patch] : [])])
    if (taken.some((one) => one.tape === id && meets(off, one)))
      throw new Refusal(409, 'Off the record', 'Some of that is off the record, so it cannot go into a piece.')
  }
}

async function checkTapes(manager: EntityManager, ends: Map<string, number>): Promise<void> {
  for (const [id, end] of ends) {
    // held until the piece is there: a tape that is here already is not refused from under it
    const tape = await manager.findOne(TapeEntity, { where: { id }, lock: { mode: 'pessimistic_read' } })
    if (!tape || tape.state === 'failed') throw new Refusal(422, 'No such tape', 'It refers to a tape that is not there.')
    if (tape.state === 'ready' && end > tape.frames) throw new Refusal(422, 'Past the end', 'It reaches past the end of the tape.')
  }
}
