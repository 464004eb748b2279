import type { DataSource } from 'typeorm'
import {
  STATES,
  type Filter,
  type LibraryFacts,
  type LibraryPage,
  type LibraryRow,
  type PageOrder,
  type Said,
  type TapeOrder,
} from '../contract/library'
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
  total: number
}

/** What pieces use a tape costs a look into each tape's uses, so it is asked only where it is needed. */
const USED = `cross join lateral (select count(*)::int as uses, coalesce(array_agg(distinct p.body ->> 'story') filter (where
  p.body ->> 'story' is not null), '{}') as "usedIn"
    from piece_use join document p on p.id = piece_use.piece where piece_use.tape = d.id::text and not p.aside) used`

/** Tapes as they are filed. A damaged row never hides the others: see npm run mend. */
const filed = (used: boolean) => `
  select d.id, d.aside, d.deleted, d.filing ->> 'name' as name, d.filing ->> 'role' as role, d.speakers, d.tags, d.filed_in as
    filed, d.marks,
    coalesce(nullif(d.filing ->> 'day', ''), to_char(t.added at time zone 'UTC', 'YYYY-MM-DD')) as day,
    t.file_name as "fileName", t.frames, t.added, t.heard, t.disk${used ? ', used.uses, used."usedIn"' : ''}
  from document d
  join tape t on t.id = d.id ${used ? USED : ''}
  where d.kind = 'tape' and d.filing is not null and t.state <> 'failed'`

const STATE = `case when uses > 0 then 3 when marks > 0 then 2 when heard then 1 else 0 end`

const ORDER_BY: Record<TapeOrder, string> = {
  name: 'lower(name)',
  who: `lower(array_to_string(speakers, ', '))`,
  length: 'frames',
  state: STATE,
  tags: `lower(array_to_string(tags, ', '))`,
  day: 'day',
  added: 'added',
  stories: `cardinality(array(select unnest(filed) union select unnest("usedIn")))`,
  words: '(select words > 0 from document transcript where transcript.tape = filed.id)',
  disk: 'disk',
}

/** What a filter asks for, as conditions on what is filed; `$n` are taken from `values`. */
function conditions(filter: Filter, said: readonly string[], values: unknown[]): string {
  const value = (one: unknown): string => `$${values.push(one)}`
  const all = ['not aside', 'deleted is null']
  const fields = `lower(concat_ws(E'\n', name, role, "fileName", array_to_string(speakers, E'\n'), array_to_string(tags, E'\n')))`
  const words = filter.text.trim().toLowerCase().split(/\s+/).filter(Boolean)
  if (words.length) {
    const named = words.map((word) => `position(${value(word)} in ${fields}) > 0`).join(' and ')
    all.push(`(id = any(${value(said)}::uuid[]) or (${named}))`)
  }
  if (filter.state) all.push(`${STATE} = ${value((STATES as readonly string[]).indexOf(filter.state))}`)
  if (filter.tag) all.push(`${value(filter.tag)} = any(tags)`)
  if (filter.speaker) all.push(`${value(filter.speaker)} = any(speakers)`)
  if (filter.story) {
    const story = value(filter.story)
    all.push(`(${story} = any(filed) or ${story} = any("usedIn"))`)
  }
  if (filter.from) all.push(`day >= ${value(filter.from)}`)
  if (filter.to) all.push(`day <= ${value(filter.to)}`)
  if (filter.shortest !== null) all.push(`frames >= ${value(filter.shortest)}`)
  if (filter.longest !== null) all.push(`frames <= ${value(filter.longest)}`)
  return all.join(' and ')
}

/** A page of the library. What is looked for may also have been said on a tape, from three letters on. */
export async function libraryPage(database: DataSource, { filter, order, descending, from, count }: PageOrder): Promise<LibraryPage> {
  const text = filter.text.trim()
  const said = text.length > 2 ? await whereSaid(database, text) : []
  const values: unknown[] = []
  const where = conditions(
    filter,
    said.map(({ id }) => id),
    values,
  )
  const used = filter.state !== '' || filter.story !== null || order === 'state' || order === 'stories'
  const by = `${ORDER_BY[order]} ${descending ? 'desc' : 'asc'} nulls last, added desc, id`
  const rows = await database.query<Found[]>(
    `with filed as (${filed(used)}), page as (select id, row_number() over (order by ${by}) as place, count(*) over ()::int as
      total from filed where ${where} order by place limit ${count} offset ${from})
    select d.id, d.aside, d.deleted, d.filing as head, d.marks, t.state, t.progress, t.file_name as "fileName",
      t.frames::float8 as frames, t.added, t.heard, t.disk::float8 as disk,
      jsonb_array_length(t.findings) as findings, used.uses, used."usedIn", transcript.words > 0 as "hasWords", page.total
    from page join document d on d.id = page.id join tape t on t.id = d.id
      join document transcript on transcript.tape = d.id ${USED} order by page.place`,
    values,
  )
  const shown = new Set(rows.map(({ id }) => id))
  return { rows: rows.map(toRow), total: rows[0]?.total ?? 0, said: said.filter(({ id }) => shown.has(id)) }
}

function toRow({ head, added, deleted, ...row }: Found): LibraryRow {
  const { name, speaker, role, day, tags, stories, sides } = head
  const { id, aside, state, progress, fileName, frames, hasWords, heard, marks, uses, usedIn, findings, disk } = row
  return {
    id,
    aside,
    state,
    progress,
    fileName,
    frames,
    hasWords,
    heard,
    marks,
    uses,
    usedIn,
    findings,
    disk,
    name,
    speaker,
    role,
    day,
    tags,
    stories,
    sides,
    added: added.toISOString(),
    deleted: deleted?.toISOString() ?? null,
  }
}

/** How much the library holds, and what occurs in it. */
export async function libraryFacts(database: DataSource): Promise<LibraryFacts> {
  const [facts] = await database.query<LibraryFacts[]>(`
    with filed as (${filed(true)}), kept as (select * from filed where not aside and deleted is null)
    select (select count(*)::int from kept) as tapes, (select coalesce(sum(disk), 0)::float8 from kept) as disk,
      array(select distinct speaker from kept, unnest(speakers) as speaker order by 1) as speakers,
      array(select distinct tag from kept, unnest(tags) as tag order by 1) as tags,
      array(select distinct story from kept, unnest(filed || "usedIn") as story) as stories,
      (select coalesce(jsonb_agg(jsonb_build_object('id', id, 'name', name) order by name), '[]') from filed where aside
        and deleted is null) as archived,
      (select coalesce(jsonb_agg(jsonb_build_object('id', id, 'name', name) order by deleted desc), '[]') from filed
        where deleted is not null) as deleted`)
  return facts
}

/** Where words were said, the first place on each tape. */
async function whereSaid(database: DataSource, text: string): Promise<Said[]> {
  const places = new Map<string, Said>()
  for (const { tape, at, text: said } of (await find(database, { text })).filter((found) => found.exact))
    if (!places.has(tape)) places.set(tape, { id: tape, at, text: said.filter(Boolean).join(' ') })
  return [...places.values()]
}

/** Deletes a tape, for good only after thirty days; one that something uses stays, and it says what. */
export async function deleteTape({ database }: Services, id: string): Promise<void> {
  const uses = await piecesMadeOf(database, id)
  if (uses.length) {
    const names = uses.slice(0, 5).map(({ slug }) => `“${slug || 'Untitled'}”`)
    const more = uses.length > names.length ? ` and ${uses.length - names.length} more` : ''
    throw new Refusal(
      409,
      'In use',
      `That tape stays, because ${uses.length === 1 ? 'a piece uses' : 'pieces use'} it: ${names.join(', ')}${more}.`,
    )
  }
  const [rows] = (await database.query(
    `update document set deleted = now() where id = $1 and kind = 'tape' and deleted is null returning id`,
    [id],
  )) as [unknown[], number]
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
    await database.query('delete from rendition where tape = $1', [id])
    await store.remove(store.tape(id))
  }
}
