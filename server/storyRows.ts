import type { DataSource } from 'typeorm'
import type { Desk, OutputRow, StoryRow } from '../contract/desk'
import { lay } from '../core/page/lay'
import { piecesIn, spineOf, storyHead, type StoryDocument } from '../core/page/story'
import { lacks, type LengthOf } from '../core/page/timing'
import { log } from './log'

/** The stories of the Desk. Each is read and timed anew only when it, or a piece on it, has changed. */

type Length = NonNullable<ReturnType<LengthOf>>

interface Known {
  /** Of the row in the database: another one each time that it is written. */
  version: string
  story: StoryDocument
  pieces: string[]
  /** How its outputs were timed, and with what lengths of its pieces. */
  timed: { with: string; outputs: OutputRow[] } | null
}

interface Row {
  id: string
  version: string
  aside: boolean
  changed: Date
}

/** From so many pieces on, all lengths are read instead of each by its id. */
const MANY = 500

const known = new Map<string, Known>()

const byName = new Intl.Collator().compare

/** When the first of its outputs airs. */
const airsAt = ({ outputs }: StoryRow): number =>
  Math.min(...outputs.map(({ airs }) => (airs ? Date.parse(airs) : Number.MAX_SAFE_INTEGER)))

/** The stories, the next to air first, and which of them cannot be shown. */
export async function storyRows(database: DataSource): Promise<Pick<Desk, 'stories' | 'broken'>> {
  const rows = await database.query<Row[]>(`select id, xmin::text as version, aside, changed from document where kind = 'story'`)
  await readChanged(database, rows)
  const lengths = await pieceLengths(database, [...new Set(rows.flatMap(({ id }) => known.get(id)?.pieces ?? []))])
  const stories: StoryRow[] = []
  const broken: string[] = []
  for (const row of rows) {
    try {
      stories.push(toRow(row, lengths))
    } catch (error) {
      log.error({ error, id: row.id }, 'a story that cannot be shown: npm run mend')
      broken.push(row.id)
    }
  }
  return { stories: stories.sort((a, b) => airsAt(a) - airsAt(b) || byName(a.slug, b.slug)), broken }
}

async function readChanged(database: DataSource, rows: readonly Row[]): Promise<void> {
  const there = new Set(rows.map(({ id }) => id))
  for (const id of known.keys()) if (!there.has(id)) known.delete(id)
  const stale = rows.filter(({ id, version }) => known.get(id)?.version !== version).map(({ id }) => id)
  if (!stale.length) return
  for (const { id, version, body } of await database.query<{ id: string; version: string; body: StoryDocument }[]>(
    'select id, xmin::text as version, body from document where id = any($1)',
    [stale],
  )) {
    known.delete(id)
    try {
      known.set(id, { version, story: body, pieces: piecesIn(body), timed: null })
    } catch {
      // what cannot be read is said where the rows are made
    }
  }
}

/**
 * How long pieces are, without reading what they are made of: each its length, head and tail in frames, as text, which
 * is read only for a story that has to be timed anew. All in one line of text, which is read much faster than rows.
 */
async function pieceLengths(database: DataSource, ids: readonly string[]): Promise<Map<string, string>> {
  const some = ids.length < MANY
  const figures = `concat_ws(',', id, frames, coalesce(head_frames, 0), coalesce(tail_frames, 0))`
  const [{ lengths }] = await database.query<{ lengths: string | null }[]>(
    `select string_agg(${figures}, ';') as lengths from document where kind = 'actuality' ${some ? 'and id = any($1)' : ''}`,
    some ? [ids] : [],
  )
  const found = new Map<string, string>()
  for (const line of lengths?.split(';') ?? []) {
    const end = line.indexOf(',')
    found.set(line.slice(0, end), line.slice(end + 1))
  }
  return found
}

function lengthIn(text: string | undefined): Length | undefined {
  if (text === undefined) return undefined
  const [length, head, tail] = text.split(',').map(Number)
  return { length, head, tail }
}

function toRow({ id, aside, changed }: Row, lengths: ReadonlyMap<string, string>): StoryRow {
  const story = known.get(id)
  if (!story) throw new Error('its record cannot be read')
  const { story: body, pieces } = story
  const lengthOf: LengthOf = (piece) => lengthIn(lengths.get(piece))
  const timedWith = pieces.map((piece) => lengths.get(piece)).join(';')
  if (story.timed?.with !== timedWith)
    story.timed = {
      with: timedWith,
      outputs: lay(body, { lengthOf }).map(({ output: { id, name, airs, slot }, order, air }) => ({
        id,
        name,
        airs,
        slot,
        trt: air.length,
        lacks: lacks(order, slot, lengthOf),
      })),
    }
  return {
    id,
    slug: storyHead(body).slug,
    blocks: spineOf(body).length,
    outputs: story.timed.outputs,
    aside,
    changed: changed.toISOString(),
  }
}
