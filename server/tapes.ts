import type { DataSource, EntityManager } from 'typeorm'
import { toneSound, type TapeInfo, type Use } from '../contract/tapes'
import { clipLength, wordsLength, type Actuality } from '../core/edits/actuality'
import type { TapeFacts } from '../core/sound/plan'
import { tapeHead, type TapeDocument } from '../core/tape/tape'
import { DocumentEntity, TapeEntity, type DocumentRow, type TapeRow } from './entities'
import { notFound } from './problem'

function toInfo(row: TapeRow, document: DocumentRow, hasWords: boolean): TapeInfo {
  const head = tapeHead(document.body as TapeDocument)
  const { state, progress, error, channels, frames, fileName, bytes, sha256, format, tone } = row
  return {
    id: row.id,
    name: head.name,
    speaker: head.speaker,
    role: head.role,
    sides: head.sides,
    state,
    progress,
    error,
    channels,
    frames,
    fileName,
    bytes,
    sha256,
    format,
    tone,
    added: row.added.toISOString(),
    aside: document.aside,
    hasWords,
  }
}

/** Tapes by id, or all of them, the newest first. */
export async function tapeInfos(database: DataSource | EntityManager, ids?: readonly string[]): Promise<TapeInfo[]> {
  const manager = 'manager' in database ? database.manager : database
  const query = manager.createQueryBuilder(TapeEntity, 'tape').addSelect('tape.words is not null', 'has_words').orderBy('tape.added', 'DESC')
  if (ids) query.where('tape.id = any(:ids)', { ids })
  const { entities, raw } = await query.getRawAndEntities<{ has_words: boolean }>()
  const documents = new Map((await manager.findBy(DocumentEntity, { kind: 'tape' })).map((row) => [row.id, row]))
  return entities.map((row, i) => toInfo(row, documents.get(row.id)!, raw[i].has_words))
}

export async function tapeInfo(database: DataSource, id: string): Promise<TapeInfo> {
  const [info] = await tapeInfos(database, [id])
  if (!info) throw notFound('That tape')
  return info
}

export const toFacts = (tape: TapeInfo): TapeFacts => ({
  id: tape.id,
  frames: tape.frames,
  sides: tape.sides,
  tone: { sound: toneSound(tape), quiet: tape.tone.quiet },
})

/** Where a tape was used, by the pieces that hold some of it. */
export async function usesOf(database: DataSource, tape: string): Promise<Use[]> {
  const rows = await database.manager
    .createQueryBuilder(DocumentEntity, 'document')
    .where(`document.kind = 'actuality' and document.body -> 'spans' @> :span::jsonb`, { span: JSON.stringify([{ tape }]) })
    .orderBy('document.created')
    .getMany()
  return rows.map((row) => {
    const body = row.body as Actuality
    const stretches = body.spans.filter((span) => span.tape === tape && span.sound === 'tape').map(({ from, to }) => ({ from, to }))
    return { piece: row.id, slug: body.slug, story: body.story, aside: row.aside, stretches, words: wordsLength(body), length: clipLength(body) }
  })
}
