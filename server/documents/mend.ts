import { randomUUID } from 'node:crypto'
import type { DataSource } from 'typeorm'
import { faultsIn, type Body, type Kind } from '../../contract/documents'
import { danglingIn, newStory, outputsOf, storyHead, type StoryDocument, type StoryHead } from '../../core/page/story'
import type { TapeDocument, TapeHead } from '../../core/tape/tape'
import { DocumentEntity } from '../entities'
import { tell } from '../notices'
import { readPiece } from './pieces'
import { changed } from './write'

/** Finds documents that do not validate, and mends them: what is wrong in them is removed, the rest stays. */

export interface Faulty {
  id: string
  kind: Kind
  faults: string[]
  /** Whether it can be mended without a person. */
  mendable: boolean
}

/** All documents that do not validate. */
export async function faultyDocuments(database: DataSource): Promise<Faulty[]> {
  const found: Faulty[] = []
  const ids = await database.query<{ id: string }[]>('select id from document order by created')
  // one at a time: together they may be more than fits into memory
  for (const { id } of ids) {
    const row = await database.manager.findOneBy(DocumentEntity, { id })
    if (!row) continue
    const piece = row.kind === 'actuality' ? await readPiece(database.manager, id) : null
    const faults = faultsIn(row.kind, piece?.piece ?? (row.body as Body))
    if (faults.length) found.push({ id, kind: row.kind, faults, mendable: row.kind === 'tape' || row.kind === 'story' })
  }
  return found
}

const HEADS: { tape: TapeHead; story: StoryHead } = {
  tape: {
    id: 'tape',
    kind: 'tape',
    name: 'Tape',
    speaker: '',
    role: '',
    day: '',
    tags: [],
    stories: [],
    sides: [{ name: '', channels: [0] }],
  },
  story: { id: 'story', kind: 'story', slug: 'Untitled' },
}

/** A bag of records without those that do not validate; of its head what validates is kept. */
export function mended<D extends TapeDocument | StoryDocument>(kind: 'tape' | 'story', body: D): D {
  const all = Object.entries((body as { records?: Record<string, unknown> }).records ?? {})
  const fine = all.filter(([id, record]) => id !== kind && !faultsOf(kind, { [kind]: HEADS[kind], [id]: record }, id).length)
  let head: Record<string, unknown> = { ...HEADS[kind] }
  for (const [key, value] of Object.entries((Object.fromEntries(all)[kind] as object | undefined) ?? {})) {
    const tried = { ...head, [key]: value }
    if (!faultsOf(kind, { [kind]: tried }, kind).length) head = tried
  }
  const records = { [kind]: head, ...Object.fromEntries(fine) }
  return (kind === 'story' ? wholeStory({ kind, records } as unknown as StoryDocument) : { kind, records }) as unknown as D
}

/** What is wrong with one record of a bag. */
const faultsOf = (kind: 'tape' | 'story', records: Record<string, unknown>, id: string): string[] =>
  faultsIn(kind, { kind, records } as unknown as Body, [{ type: 'drop', id }])

/** A story with an output, and without what belongs to records that are not there. */
function wholeStory(story: StoryDocument): StoryDocument {
  const missing = new Set(danglingIn(story))
  if (missing.size) {
    const records = Object.fromEntries(Object.entries(story.records).filter(([id]) => !missing.has(id)))
    return wholeStory({ ...story, records })
  }
  const [output] = outputsOf(story)
  return output ? story : newStory(storyHead(story), { id: randomUUID() }, Object.values(story.records))
}

/** Mends a document in place, as a revision of its own. */
export async function mend(database: DataSource, id: string): Promise<void> {
  await database.transaction(async (manager) => {
    const row = await manager.findOne(DocumentEntity, { where: { id }, lock: { mode: 'pessimistic_write' } })
    if (row?.kind !== 'tape' && row?.kind !== 'story') return
    const body = mended(row.kind, row.body as TapeDocument | StoryDocument)
    const revision = row.revision + 1
    await manager.update(DocumentEntity, { id }, { body: body as object, revision })
    await tell(manager, changed({ ...row, revision }))
  })
}
