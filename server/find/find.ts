import type { DataSource, EntityManager } from 'typeorm'
import type { FindQuery, Found } from '../../contract/find'
import { bare } from '../../core/find/bare'
import { hitsIn, type Wanted } from '../../core/find/hits'
import { OFF_THE_RECORD } from '../../core/transcript/masked'
import type { Stretch } from '../../core/time'
import type { FiledWord } from './phrases'
import { overlapsAny } from '../../core/stretches'

/** Whoever looks for more asks more narrowly. */
const MOST = 100
/** Shorter ones are taken as they are: nearly everything begins like them or is near to them. */
const SHORT = 3
/** A word that is said everywhere is not gathered from everywhere before the first places are shown (PostgreSQL’s own soft limit). */
const GATHERED = 8000
/** How many other spellings of one word are looked for. */
const NEAR = 8
/** From 0 to 1, by the rows of three letters that two spellings share. */
const NEARNESS = 0.45

interface Row {
  tape: string
  name: string
  day: string
  speaker: string
  words: FiledWord[]
  own: number
  /** What of the tape was said off the record. */
  off: Stretch[]
}

/** Spellings that were said and are near to a word, or sound like it. */
async function alternatives(manager: EntityManager, word: string): Promise<Set<string>> {
  if (word.length < SHORT) return new Set()
  const rows = await manager.query<{ word: string }[]>(
    `(select word from spelling where word % $1 and word <> $1 order by similarity(word, $1) desc, word limit ${NEAR})
     union (select word from spelling where sound = dmetaphone($1) and sound <> '' and word <> $1
       order by similarity(word, $1) desc, word limit ${NEAR})`,
    [word],
  )
  return new Set(rows.map((row) => row.word))
}

const quoted = (word: string): string => `'${word.replaceAll('\\', '').replaceAll("'", "''")}'`

/** Places where words were said in that order, those that read as asked for first, then by tape and time. */
export async function find(database: DataSource, { text, tape, story }: FindQuery): Promise<Found[]> {
  const plain = text.split(/\s+/).map(bare).filter(Boolean).slice(0, 6)
  if (!plain.length) return []
  return database.transaction(async (manager) => {
    await manager.query(`set local pg_trgm.similarity_threshold = ${NEARNESS}`)
    if (!tape && !story) await manager.query(`set local gin_fuzzy_search_limit = ${GATHERED}`)
    const exactly = plain.map((word): Wanted => ({ word, open: false, alternatives: new Set() }))
    let found = await search(manager, exactly, tape, story)
    if (found.length >= MOST) return found
    // the last word may still be being typed
    const last = exactly[exactly.length - 1]
    if (last.word.length >= SHORT) {
      last.open = true
      found = await search(manager, exactly, tape, story)
      if (found.length >= MOST) return found
    }
    const widely: Wanted[] = []
    // for long words its guess of what the index costs is far too high
    await manager.query('set local enable_seqscan = off')
    for (const one of exactly) widely.push({ ...one, alternatives: await alternatives(manager, one.word) })
    await manager.query('set local enable_seqscan = on')
    if (widely.every((one) => !one.alternatives.size)) return found
    const near = (await search(manager, widely, tape, story)).filter((hit) => !hit.exact)
    return [...found, ...near].slice(0, MOST)
  })
}

async function search(manager: EntityManager, wanted: readonly Wanted[], tape?: string, story?: string): Promise<Found[]> {
  const query = wanted
    .map(({ word, open, alternatives }) => `(${[quoted(word) + (open ? ':*' : ''), ...[...alternatives].map(quoted)].join('|')})`)
    .join('<->')
  const rows = await manager.query<Row[]>(
    `select p.tape, p.speaker, p.words, p.own, head ->> 'name' as name, head ->> 'day' as day, jsonb_path_query_array(d.body ->
      'records', '$.* ? (@.kind == "off")') as off
     from phrase p join document d on d.id = p.tape cross join lateral (select d.body -> 'records' -> 'tape' as head) as head_of
     where p.spoken @@ $1::tsquery and d.deleted is null
       and ($2::uuid is null or p.tape = $2) and ($3::text is null or head -> 'stories' ? $3)
     limit ${MOST}`,
    [query, tape ?? null, story ?? null],
  )
  const hits = rows.flatMap(({ words, own, off, ...row }) => {
    const hidden = words.map(([, from, to]) => overlapsAny(off, { from, to }))
    const said = words.map(([text], i) => (hidden[i] ? '' : bare(text)))
    return hitsIn(said, own, wanted).map(({ at, exact }): Found => {
      const last = at + wanted.length
      const read = (from: number, to: number) =>
        words
          .slice(from, to)
          .flatMap(([text], i) => (!hidden[from + i] ? [text] : hidden[from + i - 1] && i ? [] : [OFF_THE_RECORD]))
          .join(' ')
      const end = Math.max(own, last)
      return {
        ...row,
        from: words[0][1],
        to: words[end - 1][2],
        at: words[at][1],
        end: words[last - 1][2],
        text: [read(0, at), read(at, last), read(last, end)],
        exact,
        checked: words.slice(at, last).every((word) => word[3]),
      }
    })
  })
  return hits
    .sort((a, b) => Number(b.exact) - Number(a.exact) || a.name.localeCompare(b.name) || a.tape.localeCompare(b.tape) || a.at - b.at)
    .slice(0, MOST)
}
