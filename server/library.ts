import type { DataSource } from 'typeorm'
import type { LibraryRow, Said } from '../contract/library'
import type { TapeHead } from '../core/tape/tape'
import { find } from './find/find'
import { tell } from './notices'
import { notFound, Refusal } from './problem'
import type { Services } from './services'
import { piecesMadeOf } from './tapes'

/** How long what was deleted can be taken back. */
export const KEPT_DAYS = 30

interface Found extends Omit<LibraryRow, Exclude<keyof TapeHead, 'id'> | 'added' | 'deleted'> {
  head: TapeHead
  added: Date
  deleted: Date | null
}

/** All tapes with what they are filed by, the newest first. */
export async function libraryRows(database: DataSource): Promise<LibraryRow[]> {
  const rows = await database.query<Found[]>(`
    select d.id, d.aside, d.deleted, d.body -> 'records' -> 'tape' as head,
      t.state, t.progress, t.file_name as "fileName", t.frames::float8 as frames, t.added, transcript.words > 0 as "hasWords", t.heard, t.disk::float8 as disk,
      jsonb_array_length(t.findings) as findings,
      (select count(*)::int from jsonb_each(d.body -> 'records') as record where record.value ->> 'kind' = 'mark') as marks,
      coalesce(used.count, 0) as uses, coalesce(used.stories, '{}') as "usedIn"
    from document d
    join tape t on t.id = d.id
    join document transcript on transcript.tape = d.id
    left join (
      select heard #>> '{}' as tape, count(distinct piece.id)::int as count, array_remove(array_agg(distinct piece.body ->> 'story'), null) as stories
      from document piece, jsonb_path_query(piece.body -> 'spans', 'strict $.**.tape') as heard
      where piece.kind = 'actuality' and not piece.aside
      group by 1
    ) used on used.tape = d.id::text
    where t.state <> 'failed'
    order by t.added desc`)
  return rows.flatMap(({ head, added, deleted, ...row }) => {
    // a damaged row never hides the others: see npm run mend
    if (!head || !Array.isArray(head.sides)) return []
    const { name, speaker, role, day, tags, stories, sides } = head
    return { ...row, name, speaker, role, day, tags, stories, sides, added: added.toISOString(), deleted: deleted?.toISOString() ?? null }
  })
}

/** Where words were said, the first place on each tape. */
export async function whereSaid(database: DataSource, text: string): Promise<Said[]> {
  const places = new Map<string, Said>()
  for (const { tape, at, text: said } of (await find(database, { text })).filter((found) => found.exact)) if (!places.has(tape)) places.set(tape, { id: tape, at, text: said.filter(Boolean).join(' ') })
  return [...places.values()]
}

/** Deletes a tape, for good only after thirty days; one that something uses stays, and it says what. */
export async function deleteTape({ database }: Services, id: string): Promise<void> {
  const uses = await piecesMadeOf(database, id)
  if (uses.length) {
    const names = uses.slice(0, 5).map(({ slug }) => `“${slug || 'Untitled'}”`)
    const more = uses.length > names.length ? ` and ${uses.length - names.length} more` : ''
    throw new Refusal(409, 'In use', `That tape stays, because ${uses.length === 1 ? 'a piece uses' : 'pieces use'} it: ${names.join(', ')}${more}.`)
  }
  const [rows] = (await database.query(`update document set deleted = now() where id = $1 and kind = 'tape' and deleted is null returning id`, [id])) as [unknown[], number]
  if (!rows.length) throw notFound('That tape')
  await tell(database, { about: 'tape', id })
}

export async function takeBackTape({ database }: Services, id: string): Promise<void> {
  await database.query('update document set deleted = null where id = $1', [id])
  await tell(database, { about: 'tape', id })
}

/** Clears away what was deleted longer ago than it can be taken back; not what somebody made a piece of all the same. */
export async function clearDeleted({ database, store }: Services): Promise<void> {
  const old = await database.query<{ id: string }[]>(`select id from document where deleted < now() - interval '${KEPT_DAYS} days'`)
  for (const { id } of old) {
    if ((await piecesMadeOf(database, id)).length) continue
    await database.query('delete from document where id = $1', [id])
    await store.remove(store.tape(id))
  }
}
