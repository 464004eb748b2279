import type { EntityManager } from 'typeorm'
import type { LoggedEntry, ToldEntry } from '../../contract/documents'
import { EntryEntity, type EntryRow } from '../entities'

/** The log of a document: every act that was taken into it, in order. */

const toTold = (row: Omit<EntryRow, 'inverse'>): ToldEntry => ({
  revision: row.revision,
  id: row.id,
  author: row.author,
  label: row.label,
  steps: row.steps,
  ...(row.undoes ? { undoes: row.undoes } : {}),
  ...(row.quiet ? { quiet: true } : {}),
  ...(row.together ? { together: row.together } : {}),
  at: row.at.toISOString(),
})

/** Where the log begins that one author needs to undo by: before their first act; at the end where they have none. */
export async function ownFrom(manager: EntityManager, document: string, author: string): Promise<number> {
  const [row] = (await manager.query(
    'select coalesce(min(e.revision) - 1, d.revision) as since from document d left join entry e on e.document = ' +
      'd.id and e.author = $2 where d.id = $1 group by d.revision',
    [document, author],
  )) as { since: number }[]
  return row?.since ?? 0
}

const TOLD = ['id', 'revision', 'author', 'label', 'steps', 'undoes', 'quiet', 'together', 'at'] as const

/** The log since a revision as others are told of it. */
export async function toldSince(manager: EntityManager, document: string, revision: number): Promise<ToldEntry[]> {
  const rows = await manager
    .createQueryBuilder(EntryEntity, 'entry')
    .select(TOLD.map((column) => `entry.${column}`))
    .where('entry.document = :document and entry.revision > :revision', { document, revision })
    .orderBy('entry.revision')
    .getMany()
  return rows.map(toTold)
}

export async function logSince(manager: EntityManager, document: string, revision: number): Promise<LoggedEntry[]> {
  const rows = await manager
    .createQueryBuilder(EntryEntity, 'entry')
    .where('entry.document = :document and entry.revision > :revision', { document, revision })
    .orderBy('entry.revision')
    .getMany()
  return rows.map((row) => ({ ...toTold(row), inverse: row.inverse }))
}
