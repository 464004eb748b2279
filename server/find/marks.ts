import type { DataSource } from 'typeorm'
import type { FindQuery, FoundMark } from '../../contract/find'

/** Whoever looks for more asks more narrowly. */
const MOST = 20

/** Marks of tapes and of pages in whose note all of the words stand, or begin so; a #keyword is found by its sign. */
export async function findMarks(database: DataSource, { text, tape, story }: FindQuery): Promise<FoundMark[]> {
  const words = text.split(/\s+/).filter(Boolean)
  const patterns = words.map((word) => `(^|[^[:alnum:]_])${word.replace(/[^\p{L}\p{N}]/gu, (sign) => `\\${sign}`)}`)
  return database.manager.query<FoundMark[]>(
    `select mark ->> 'id' as id, d.id as "on", d.kind, coalesce(head ->> 'name', head ->> 'slug', '') as name,
       coalesce(head ->> 'day', '') as day, mark ->> 'text' as text, coalesce(mark ->> 'colour', 'tape') as colour,
       (mark ->> 'at')::float8 as at, mark -> 'start' ->> 'block' as block
     from document d cross join lateral (select d.body -> 'records' -> d.kind as head) as head_of
       cross join lateral jsonb_path_query(d.body -> 'records', '$.* ? (@.kind == "mark" && @.text != "")') as mark
     where d.kind in ('tape', 'story') and d.deleted is null and mark ->> 'text' ~* all($1::text[])
       and ($2::uuid is null or d.id = $2) and ($3::text is null or d.id::text = $3 or head -> 'stories' ? $3)
     order by name, d.id, at, id
     limit ${MOST}`,
    [patterns, tape ?? null, story ?? null],
  )
}
