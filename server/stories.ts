import { randomUUID } from 'node:crypto'
import { In, Not, type DataSource } from 'typeorm'
import type { PieceRow, Recent } from '../contract/desk'
import { clipLength, type Actuality } from '../core/edits/actuality'
import { piecesIn, storyHead, withPiece, type StoryDocument } from '../core/page/story'
import type { LengthOf } from '../core/page/timing'
import { tapeHead, type TapeDocument } from '../core/tape/tape'
import { insertPiece, piecesById, readPieces } from './documents/pieces'
import { DocumentEntity, type DocumentRow, type StoredBody } from './entities'
import { log } from './log'
import { tell } from './notices'
import { notFound } from './problem'

export const lengthIn =
  (pieces: ReadonlyMap<string, Actuality>): LengthOf =>
  (id) => {
    const piece = pieces.get(id)
    return piece && { length: clipLength(piece), head: piece.head, tail: piece.tail }
  }

/** What is made of each row; one that cannot be is left out and logged, so that a bad row never hides the others. */
function surviving<T>(rows: readonly DocumentRow[], make: (row: DocumentRow) => T): T[] {
  return rows.flatMap((row) => {
    try {
      return [make(row)]
    } catch (error) {
      log.error({ error, id: row.id, kind: row.kind }, 'a document that cannot be shown: npm run mend')
      return []
    }
  })
}

/** Whether a piece `d` belongs to a story, or is used on its page. */
const ofStory = (story: string): string =>
  `(d.body ->> 'story' = ${story} or d.id::text in (
     select coalesce(block.value ->> 'piece', block.value #>> '{plays,piece}')
       from document page, jsonb_each(page.body -> 'records') as block
     where page.id = ${story}::uuid and page.kind = 'story'))`

/**
 * Pieces of a story with those that it uses of other stories, or pieces that use a tape, in the order in which
 * they were pulled; all of them where neither is named.
 */
export async function pieceRows(database: DataSource, { story, tape }: { story?: string; tape?: string }): Promise<PieceRow[]> {
  const where: string[] = ['true']
  const values: string[] = []
  if (story) where.push(ofStory(`$${values.push(story)}`))
  if (tape) where.push(`not d.aside and d.id in (select piece from piece_use where tape = $${values.push(tape)})`)
  return (await readPieces(database, where.join(' and '), values)).map(({ id, revision, aside, changed, piece }) => ({
    id,
    revision,
    aside,
    changed: changed.toISOString(),
    body: piece,
  }))
}

const nameOf = (body: StoredBody): string =>
  body.kind === 'actuality' ? body.slug : body.kind === 'story' ? storyHead(body).slug : tapeHead(body as TapeDocument).name

export async function recent(database: DataSource, count: number): Promise<Recent[]> {
  const rows = await database.manager.find(DocumentEntity, {
    where: { aside: false, kind: Not(In(['transcript', 'board'])) },
    order: { changed: 'DESC' },
    take: count,
  })
  return surviving(rows, (row) => ({
    id: row.id,
    kind: row.kind as Recent['kind'],
    name: nameOf(row.body),
    changed: row.changed.toISOString(),
  }))
}

/** A second story like the first, with pieces of its own, so that neither changes with the other. */
export function duplicateStory(database: DataSource, id: string): Promise<string> {
  return database.transaction(async (manager) => {
    const row = await manager.findOneBy(DocumentEntity, { id, kind: 'story' })
    if (!row) throw notFound('That story')
    const copy = randomUUID()
    const story = row.body as StoryDocument
    const pieces = await piecesById(manager, piecesIn(story), { kept: true })
    const renamed = new Map<string, string>()
    for (const [piece, body] of pieces) {
      renamed.set(piece, randomUUID())
      await insertPiece(manager, renamed.get(piece)!, { ...body, story: copy })
    }
    const head = storyHead(story)
    const records = Object.entries(story.records).map(([key, record]) => [key, withPiece(record, (piece) => renamed.get(piece)!)])
    const body: StoryDocument = {
      kind: 'story',
      records: { ...Object.fromEntries(records), story: { ...head, slug: `${head.slug}, copy` } },
    }
    await manager.insert(DocumentEntity, { id: copy, kind: 'story', revision: 0, aside: false, body: body as object })
    await tell(manager, { about: 'document', id: copy, kind: 'story', revision: 0 })
    return copy
  })
}
