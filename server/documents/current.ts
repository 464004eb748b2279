import type { EntityManager } from 'typeorm'
import type { Body, Kind, ToldEntry } from '../../contract/documents'
import type { Actuality } from '../../core/edits/actuality'
import { DocumentEntity } from '../entities'
import { toldSince } from './log'
import { readPiece } from './pieces'

/** A document as it is now, with the newest of its log. */
export interface Current {
  id: string
  kind: Kind
  /** Of a transcript: the tape whose words it holds. */
  tape: string | null
  revision: number
  /** Of a piece: without what is kept beside it. */
  body: Body
  /** Of a piece: the revision at which its edit list was last written. */
  listed: number
  /** The newest acts, in order; all of them since `logged`. */
  log: readonly ToldEntry[]
  logged: number
}

/** So many documents are remembered as this process last wrote them, and so many of their acts. */
const [DOCUMENTS, ACTS] = [24, 100]

/** The last that was written first. What another process wrote since is told by the revision. */
const remembered = new Map<string, Current>()

/** A document as this process last wrote it; another may have changed it since. */
export const recall = (id: string): Current | undefined => remembered.get(id)

export const forget = (id: string): boolean => remembered.delete(id)

export function remember(current: Current): void {
  const log = current.log.slice(-ACTS)
  remembered.delete(current.id)
  remembered.set(current.id, { ...current, log, logged: current.revision - log.length })
  const [oldest] = remembered.keys()
  if (remembered.size > DOCUMENTS) remembered.delete(oldest)
}

/** An act that is in some log already, and where. */
export interface LoggedAt {
  id: string
  document: string
  revision: number
}

export interface Locked {
  current: Current
  /** Which of the acts that were asked about are in a log already. */
  there: readonly LoggedAt[]
}

/**
 * A document, locked until the transaction ends; null if it is not there. Its log reaches back to `since` at least.
 * `acts`: ids of acts that may be in already.
 */
export async function lockCurrent(manager: EntityManager, id: string, acts: readonly string[], since?: number): Promise<Locked | null> {
  const [row] = await manager.query<Row[]>('select id, kind, revision, tape from document where id = $1 for update', [id])
  if (!row) return null
  // asked once the lock is held: what was written while it was waited for is seen
  const there = await manager.query<LoggedAt[]>('select id, document, revision from entry where id = any($1)', [acts])
  const known = remembered.get(id)
  let current = known?.revision === row.revision ? known : await read(manager, row)
  if (since !== undefined && since < current.logged) current = { ...current, log: await toldSince(manager, id, since), logged: since }
  return { current, there }
}

type Row = Pick<Current, 'id' | 'kind' | 'revision' | 'tape'>

async function read(manager: EntityManager, row: Row): Promise<Current> {
  const { id, kind, revision, tape } = row
  const known = { id, kind, revision, tape, log: [], logged: revision }
  if (kind !== 'actuality') {
    const { body } = await manager.findOneOrFail(DocumentEntity, { where: { id }, select: { id: true, body: true } })
    return { ...known, body: body as Body, listed: 0 }
  }
  const { piece, listed } = (await readPiece(manager, id))!
  const { kept: _, ...body } = piece
  return { ...known, body: body satisfies Actuality, listed }
}
