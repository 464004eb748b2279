import type { DataSource } from 'typeorm'
import type { Kind } from '../../contract/documents'

/** What kind a document is, and of which tape a transcript holds the words: neither ever changes. */
export interface Known {
  kind: Kind
  tape: string | null
}

/** So many are remembered; what was asked for first is forgotten first. */
const MOST = 1000
const remembered = new Map<string, Known>()

/** Null if there is no such document; one that was there once may be gone. */
export async function knownDocument(database: DataSource, id: string): Promise<Known | null> {
  const known = remembered.get(id)
  if (known) return known
  const [row] = await database.query<Known[]>('select kind, tape from document where id = $1', [id])
  if (!row) return null
  remembered.set(id, row)
  const [oldest] = remembered.keys()
  if (remembered.size > MOST) remembered.delete(oldest)
  return row
}
