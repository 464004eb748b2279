import type { Pool } from 'pg'
import type { DataSource, EntityManager } from 'typeorm'
import type { PostgresDriver } from 'typeorm/driver/postgres/PostgresDriver.js'
import type { Notice } from '../../contract/desk'
import type { Actuality, ActualityStep } from '../../core/edits/actuality'
import type { Transcript } from '../../core/transcript/transcript'
import { filePhrases } from '../find/phrases'
import { CHANNEL } from '../notices'
import type { Current } from './current'
import { pieceColumns, staysAsListed, writePiece } from './pieces'
import type { Taking } from './taking'

/** What listeners are told of a document that changed. */
export const changed = ({ id, kind, revision, tape }: Pick<Current, 'id' | 'kind' | 'revision' | 'tape'>): Notice =>
  kind === 'transcript' ? { about: 'document', id, kind, revision, tape: tape! } : { about: 'document', id, kind, revision }

const stepsOf = ({ fresh }: Taking): ActualityStep[] => fresh.flatMap(({ steps }) => steps as ActualityStep[])

/** What was taken goes into the log, the document's row becomes what it is then, and all listeners are told once it is so. */
const ACTS = `
  with document as (
    update document set revision = $3, changed = now(), body = coalesce($4, body), frames = coalesce($5, frames)
    where id = $1 and revision = $6 returning id
  ), written as (
    insert into entry (id, document, revision, author, label, steps, inverse, undoes, quiet, together, at)
    select fresh.id, document.id, revision, author, label, steps, inverse, undoes, coalesce(quiet, false), together, at
    from document, jsonb_to_recordset($2) as fresh (id uuid, revision int, author uuid, label text, steps jsonb, inverse jsonb,
      undoes uuid, quiet boolean, together text, at timestamptz)
  )
  select pg_notify($7, $8) from document`

/** What the places of `ACTS` stand for. */
function valuesOf(taking: Taking): unknown[] {
  const { before, current, fresh } = taking
  const { id, kind, revision, body } = current
  const columns = kind === 'actuality' ? pieceColumns(body as Actuality, stepsOf(taking)) : { body, frames: null }
  return [
    id,
    JSON.stringify(fresh),
    revision,
    columns.body && JSON.stringify(columns.body),
    columns.frames,
    before.revision,
    CHANNEL,
    JSON.stringify(changed(current)),
  ]
}

/** Writes what was taken into a document that is locked; resolves to it as it is then, or null if nothing was taken. */
export async function write(manager: EntityManager, taking: Taking): Promise<Current | null> {
  const { before, current } = taking
  if (!taking.fresh.length) return null
  await manager.query(ACTS, valuesOf(taking))
  if (current.kind === 'transcript') await filePhrases(manager, current.tape!, current.body as Transcript)
  if (current.kind !== 'actuality') return current
  const { kept: _, ...after } = current.body as Actuality
  const listed = await writePiece(manager, {
    id: current.id,
    before: before.body as Actuality,
    after: current.body as Actuality,
    steps: stepsOf(taking),
    revision: current.revision,
    listed: before.listed,
  })
  return { ...current, body: after, listed }
}

/** Whether what was taken is written in full by one statement. */
export function isSmall(taking: Taking): boolean {
  const { before, current } = taking
  if (current.kind === 'transcript') return false
  return (
    current.kind !== 'actuality' || staysAsListed(before.body as Actuality, current.body as Actuality, current.revision - before.listed)
  )
}

/**
 * Writes what was taken in one statement, without a lock, if the document is still what it was taken to be; resolves to
 * whether it was, and so was written. The statement has a name, which TypeORM cannot give it: the database then plans it
 * once a connection, not once an act. Rejects with DatabaseError where an act of the same id is there.
 */
export async function writeAtOnce(database: DataSource, taking: Taking): Promise<boolean> {
  const pool = (database.driver as PostgresDriver).master as Pool
  const { rows } = await pool.query({ name: 'acts', text: ACTS, values: valuesOf(taking) })
  return rows.length > 0
}
