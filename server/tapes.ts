import { In, type DataSource, type EntityManager } from 'typeorm'
import type { RenditionInfo, TapeInfo, Use } from '../contract/tapes'
import { isRoom } from '../core/edits/editList'
import { clipLength, wordsLength } from '../core/edits/actuality'
import { sidesInForce } from '../core/tape/inForce'
import { effectsIn } from '../core/mend/effects'
import { offRecord, renditionsOf, SPOKEN, tapeHead, type TapeDocument } from '../core/tape/tape'
import { runs, stemOf } from '../core/tape/runOn'
import { RATE } from '../core/time'
import { readPieces } from './documents/pieces'
import { DocumentEntity, TapeEntity, type DocumentRow, type TapeRow } from './entities'
import { log } from './log'
import { notFound } from './problem'
import { without } from '../core/stretches'

type RenditionState = Pick<RenditionInfo, 'state' | 'error' | 'progress' | 'did'>
const NOT_BEGUN: RenditionState = { state: 'waiting', error: '', progress: 0, did: null }

interface TranscriptFacts {
  transcript: string
  words: number
}

function toInfo(
  row: TapeRow,
  document: DocumentRow,
  { transcript, words }: TranscriptFacts,
  made: ReadonlyMap<string, RenditionState>,
): TapeInfo {
  const head = tapeHead(document.body as TapeDocument)
  const off = offRecord(document.body as TapeDocument)
  const { state, progress, error, twin, channels, frames, fileName, bytes, size, complete, sha256, format, findings, origin, tone } = row
  return {
    id: row.id,
    name: head.name,
    speaker: head.speaker,
    role: head.role,
    day: head.day,
    tags: head.tags,
    sides: sidesInForce(document.body as TapeDocument),
    language: head.language ?? SPOKEN,
    state,
    progress,
    error,
    twin,
    channels,
    frames,
    fileName,
    bytes,
    size,
    complete,
    sha256,
    format,
    findings,
    origin,
    off,
    // its quiet too would be the room that was promised not to get out
    tone: { ...tone, quiet: tone.made ? tone.quiet : tone.quiet.flatMap((stretch) => without(stretch, off)) },
    added: row.added.toISOString(),
    aside: document.aside,
    hasWords: words > 0,
    transcript,
    renditions: renditionsOf(document.body as TapeDocument).map(({ id, name, channels, treatment, piece }) => {
      const { state, error: fault, progress, did } = made.get(id) ?? NOT_BEGUN
      return { id, name, channels, piece, state, error: fault, progress, did, effects: effectsIn(treatment) }
    }),
  }
}

/** Tapes by id, or all that are there or arriving and were not deleted, the newest first. */
export async function tapeInfos(database: DataSource | EntityManager, ids?: readonly string[]): Promise<TapeInfo[]> {
  const manager = 'manager' in database ? database.manager : database
  const query = manager
    .createQueryBuilder(TapeEntity, 'tape')
    .innerJoin('document', 't', 't.tape = tape.id')
    .addSelect('t.id', 'transcript')
    .addSelect('t.words', 'words')
    .orderBy('tape.added', 'DESC')
  if (ids) query.where('tape.id = any(:ids)', { ids })
  else query.where(`tape.state <> 'failed' and exists (select 1 from document where document.id = tape.id and deleted is null)`)
  const [{ entities, raw }, rows, renditions] = await Promise.all([
    query.getRawAndEntities<TranscriptFacts>(),
    manager.findBy(DocumentEntity, { kind: 'tape', ...(ids ? { id: In([...ids]) } : {}) }),
    manager.query<(RenditionState & { id: string })[]>(
      `select id, state, error, progress, did from rendition ${ids ? 'where tape = any($1)' : ''}`,
      ids ? [ids] : [],
    ),
  ])
  const made = new Map(renditions.map((one) => [one.id, one]))
  const documents = new Map(rows.map((row) => [row.id, row]))
  return entities.flatMap((row, i) => {
    // one that was called off between the two questions is not there
    const document = documents.get(row.id)
    if (!document) return []
    try {
      return [toInfo(row, document, raw[i], made)]
    } catch (error) {
      // one damaged row never hides the others
      log.error({ error, id: row.id }, 'a tape that cannot be shown: npm run mend')
      return []
    }
  })
}

export async function tapeInfo(database: DataSource, id: string): Promise<TapeInfo> {
  const [info] = await tapeInfos(database, [id])
  if (!info) throw notFound('That tape')
  return info
}

/**
 * The pieces and pages that anything of a tape is kept in: it stands in them, lies over or beside what does, is set aside or
 * is in a version.
 */
export const piecesMadeOf = (database: DataSource | EntityManager, tape: string): Promise<{ slug: string }[]> =>
  database.query(
    `select coalesce(body ->> 'slug', body #>> '{records,story,slug}') as slug from document d where kind = 'actuality' and (
       id in (select piece from piece_use where tape = $1) or body @? $2::jsonpath
       or exists (select 1 from kept where kept.piece = d.id and record @? $2::jsonpath))
       or kind = 'story' and body @? $2::jsonpath order by created`,
    [tape, `$.**.tape ? (@ == ${JSON.stringify(tape)})`],
  )

/** Where a tape was used, by the pieces in which some of it stands or is laid over something. */
export async function usesOf(database: DataSource, tape: string): Promise<Use[]> {
  const rows = await readPieces(database, 'd.id in (select piece from piece_use where tape = $1)', [tape])
  const stands = rows.filter(({ piece }) => piece.spans.some((span) => span.tape === tape || span.patch?.tape === tape))
  return stands.map(({ id, aside, created, piece }) => {
    const heard = piece.spans.flatMap((span) => [...(isRoom(span) ? [] : [span]), ...(span.patch ? [span.patch] : [])])
    const stretches = heard.filter((one) => one.tape === tape).map(({ from, to }) => ({ from, to }))
    return {
      piece: id,
      slug: piece.slug,
      story: piece.story,
      aside,
      stretches,
      at: created.toISOString(),
      words: wordsLength(piece),
      length: clipLength(piece),
    }
  })
}

/** The files of the recording that a tape is one file of, in their order; none where it is a recording by itself. */
export async function runOf(database: DataSource, id: string): Promise<TapeInfo[]> {
  const stem = stemOf((await tapeInfo(database, id)).fileName)
  if (stem === null) return []
  const like = await database.query<{ id: string }[]>(
    `select tape.id from tape join document on document.id = tape.id where tape.state = 'ready' and not document.aside
      and document.deleted is null and starts_with(lower(tape.file_name), $1)`,
    [stem],
  )
  const files = (
    await tapeInfos(
      database,
      like.map((row) => row.id),
    )
  ).map((tape) => ({ ...tape, seconds: tape.frames / RATE }))
  return runs(files).find((run) => run.some((tape) => tape.id === id)) ?? []
}
