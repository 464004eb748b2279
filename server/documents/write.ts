import type { EntityManager } from 'typeorm'
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

/**
 * What was taken goes into the logs, the rows of the documents become what they are then, and all listeners are told once it
 * is so. A document that is not what it was taken to be, or that somebody else holds, is left as it is.
 */
export const ACTS = `
  with taken as (
    select * from jsonb_to_recordset($1) as taken (id uuid, was int, revision int, body jsonb, frames int, acts jsonb, told text)
  ), free as (
    select document.id from document join taken on taken.id = document.id and taken.was = document.revision
    for update of document skip locked
  ), changed as (
    update document set revision = taken.revision, changed = now(), body = coalesce(taken.body, document.body),
      frames = coalesce(taken.frames, document.frames)
    from taken join free on free.id = taken.id where document.id = taken.id returning document.id
  ), written as (
    insert into entry (id, document, revision, author, label, steps, inverse, undoes, quiet, together, at)
    select act.id, taken.id, act.revision, author, label, steps, inverse, undoes, coalesce(quiet, false), together, at
    from changed join taken on taken.id = changed.id, jsonb_to_recordset(acts) as act (id uuid, revision int, author uuid,
      label text, steps jsonb, inverse jsonb, undoes uuid, quiet boolean, together text, at timestamptz)
  )
  select changed.id, pg_notify($2, told) from changed join taken on taken.id = changed.id`

/** What the places of `ACTS` stand for. */
export const valuesOf = (all: readonly Taking[]): unknown[] => [JSON.stringify(all.map(rowOf)), CHANNEL]

function rowOf(taking: Taking): object {
  const { before, current, fresh } = taking
  const { id, kind, revision, body } = current
  const columns = kind === 'actuality' ? pieceColumns(body as Actuality, stepsOf(taking)) : { body, frames: null }
  return { id, was: before.revision, revision, ...columns, acts: fresh, told: JSON.stringify(changed(current)) }
}

/** Writes what was taken into a document that is locked; resolves to it as it is then, or null if nothing was taken. */
export async function write(manager: EntityManager, taking: Taking): Promise<Current | null> {
  const { before, current } = taking
  if (!taking.fresh.length) return null
  await manager.query(ACTS, valuesOf([taking]))
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
