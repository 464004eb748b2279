import { randomUUID } from 'node:crypto'
import { rename } from 'node:fs/promises'
import type { EntityManager } from 'typeorm'
import { ValidationError } from 'yup'
import { checkedSteps, faultsIn, type Body, type Kind } from '../../contract/documents'
import { packedSchema, type Packed, type PackedDocument, type PackedTape } from '../../contract/storyFiles'
import { receiptSchema, type PackedReceipt } from '../../contract/storyReceipts'
import { hangersOf } from '../../core/page/story'
import { renditionsOf, tapeHead } from '../../core/tape/tape'
import { PEAK_LEVELS } from '../../core/sound/peaks'
import { DocumentEntity, EntryEntity, SendEntity, TapeEntity } from '../entities'
import { insertPiece, tapesOfPiece } from '../documents/pieces'
import { DeliveryEntity } from '../delivery/rows'
import { filePhrases } from '../find/phrases'
import { tell } from '../notices'
import type { Services } from '../services'
import { refused, type Opened } from './unpack'

/** What came out of a story file, checked, and put where it belongs. */

/** Reads the documents of a story file, and refuses what does not validate or does not hang together. */
export async function readPacked(opened: Opened): Promise<{ packed: Packed; receipts: PackedReceipt[] }> {
  const parsed = async (path: string): Promise<unknown> => {
    try {
      return JSON.parse(await opened.text(path))
    } catch (error) {
      if (error instanceof SyntaxError) throw refused(`“${path}” in it can’t be read.`)
      throw error
    }
  }
  try {
    const packed = (await packedSchema.validate(await parsed('documents.json'), { strict: true })) as unknown as Packed
    const receipts = (await receiptSchema.validate(await parsed('receipts.json'), { strict: true })) as PackedReceipt[]
    checkDocuments(packed)
    checkTies(packed, receipts, opened)
    return { packed, receipts }
  } catch (error) {
    if (error instanceof ValidationError) throw refused(`A document in it makes no sense: ${error.message}.`)
    throw error
  }
}

function checkDocuments({ story, pieces, tapes }: Packed): void {
  const all: [Kind, PackedDocument<Body>][] = [
    ['story', story],
    ...pieces.map((piece): [Kind, PackedDocument<Body>] => ['actuality', piece]),
    ...tapes.map(({ document }): [Kind, PackedDocument<Body>] => ['tape', document]),
    ...tapes.map(({ transcript }): [Kind, PackedDocument<Body>] => ['transcript', transcript]),
  ]
  for (const [kind, { body, log, revision }] of all) {
    if ((body as { kind?: string }).kind !== kind) throw refused('A document in it is of another kind than it says.')
    const [fault] = faultsIn(kind, body)
    if (fault) throw refused(`A document in it makes no sense: ${fault}.`)
    for (const entry of log) {
      if (entry.revision > revision) throw refused('A document in it is older than what was done to it.')
      checkedSteps(kind, entry.steps)
      checkedSteps(kind, entry.inverse)
    }
  }
}

/** What a piece or a page plays must be there, and as long as it says; so must be the files of each tape. */
function checkTies({ story, pieces, tapes }: Packed, receipts: readonly PackedReceipt[], { manifest }: Opened): void {
  const ends = new Map(tapes.map(({ document, known }) => [document.id, known.frames]))
  const files = new Map(manifest.files.map(({ path, bytes }) => [path, bytes]))
  const played = [
    ...pieces.flatMap(({ body }) => [...tapesOfPiece(body)]),
    ...hangersOf(story.body).flatMap(({ plays }) => ('tape' in plays ? plays.tape : [])),
  ]
  if (played.some((tape) => !ends.has(tape))) throw refused('It plays a tape that is not in it.')
  for (const { spans } of pieces.map(({ body }) => body))
    if (spans.some(({ tape, to, sound }) => sound === 'tape' && to > ends.get(tape)!))
      throw refused('A piece in it reaches past the end of its tape.')
  const wanted = [
    ...tapes.flatMap(filesOf),
    ...receipts.flatMap(({ id, script, ...file }) =>
      [file, ...(script ? [script] : [])].map(({ fileName, bytes }): [string, number] => [`sent/${id}/${fileName}`, bytes]),
    ),
  ]
  for (const [path, bytes] of wanted) {
    const there = files.get(path)
    if (there === undefined) throw refused(`“${path}” is missing in it.`)
    if (bytes !== null && there !== bytes) throw refused(`“${path}” in it is not as long as it should be.`)
  }
  if (tapes.some(({ document, original }) => !original.startsWith(`tapes/${document.id}/original`)))
    throw refused('The files of a tape in it lie elsewhere.')
}

/** The files that a tape must have, with their length where it follows from the tape's. */
function filesOf({ document: { id, body }, known, renditions, original }: PackedTape): [string, number | null][] {
  const at = (name: string) => `tapes/${id}/sound/${name}`
  const made = new Map(renditionsOf(body).map((one) => [one.id, one.channels]))
  const channels = Array.from({ length: known.channels }, (_, channel) => channel)
  return [
    [original, known.bytes],
    ...channels.flatMap((channel): [string, number | null][] => [
      [at(`sound-${channel}.f32`), known.frames * 4],
      [at(`loudness-${channel}.f32`), null],
      ...PEAK_LEVELS.map((_level, i): [string, null] => [at(`peaks-${channel}-${i}.i16`), null]),
    ]),
    ...renditions.flatMap(({ id: rendition }) =>
      (made.get(rendition) ?? []).map((channel): [string, number] => [at(`${rendition}-${channel}.f32`), known.frames * 4]),
    ),
  ]
}

const ID = /[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}/g

/** Gives all that is in it ids of its own, where any of them is known here already: it comes as a copy beside what is here. */
export async function withOwnIds<T extends { packed: Packed; receipts: PackedReceipt[] }>(
  { database }: Services,
  all: T,
): Promise<{ all: T; own: (text: string) => string }> {
  const { story, pieces, tapes } = all.packed
  const documents = [story, ...pieces, ...tapes.flatMap(({ document, transcript }) => [document, transcript])]
  const ids = [
    ...documents.flatMap(({ id, log }) => [id, ...log.map((entry) => entry.id)]),
    ...tapes.flatMap(({ renditions }) => renditions.map(({ id }) => id)),
    ...all.receipts.map(({ id }) => id),
  ]
  if (new Set(ids).size < ids.length) throw refused('Two things in it have one id.')
  const [{ known }] = await database.query<{ known: boolean }[]>(
    `select exists (select 1 from document where id = any($1)) or exists (select 1 from entry where id = any($1))
      or exists (select 1 from rendition where id = any($1)) or exists (select 1 from send where id = any($1)) as known`,
    [ids],
  )
  if (!known) return { all, own: (text) => text }
  const fresh = new Map(ids.map((id) => [id, randomUUID() as string]))
  const own = (text: string) => text.replace(ID, (id) => fresh.get(id) ?? id)
  return { all: JSON.parse(own(JSON.stringify(all))) as T, own }
}

/**
 * Keeps all of it in one transaction; its files are where they belong before anybody can see it. `files`: where they were
 * unpacked. `within`: what is kept together with it, so that an end of the server cannot come between.
 */
export async function restore(
  { database, store }: Services,
  { packed, receipts }: { packed: Packed; receipts: PackedReceipt[] },
  files: { tape: (id: string) => string; sent: (receipt: PackedReceipt, fileName: string) => string },
  within: (manager: EntityManager) => Promise<void>,
): Promise<void> {
  const { story, pieces, tapes } = packed
  const moved: string[] = []
  const move = async (from: string, to: string) => {
    // nothing here has that id: what lies there was left by a try that was cut short
    await store.remove(to)
    await rename(from, to)
    moved.push(to)
  }
  try {
    for (const { document } of tapes) await move(files.tape(document.id), store.tape(document.id))
    for (const receipt of receipts) {
      await move(files.sent(receipt, receipt.fileName), store.sent(receipt.id))
      if (receipt.script) await move(files.sent(receipt, receipt.script.fileName), store.script(receipt.id))
    }
    await database.transaction(async (manager) => {
      for (const tape of tapes) await insertTape(manager, filedIn(tape, story.id))
      for (const { id, body, ...rest } of pieces) {
        await insertPiece(manager, id, body)
        await manager.query('update edit_list set revision = $2 where piece = $1', [id, rest.revision])
        await manager.query('update document set revision = $2, aside = $3, created = $4 where id = $1', [
          id,
          rest.revision,
          rest.aside,
          rest.created,
        ])
        await insertLog(manager, id, rest.log)
      }
      await insertDocument(manager, 'story', story)
      for (const receipt of receipts) await insertReceipt(manager, receipt)
      await within(manager)
      await tell(manager, { about: 'document', id: story.id, kind: 'story', revision: story.revision })
    })
  } catch (error) {
    for (const path of moved) await store.remove(path)
    throw error
  }
}

/** Of the stories that a tape was filed in, this one is here. */
function filedIn(tape: PackedTape, story: string): PackedTape {
  const { body } = tape.document
  const records = { ...body.records, tape: { ...tapeHead(body), stories: [story] } }
  return { ...tape, document: { ...tape.document, body: { ...body, records } } }
}

async function insertDocument(manager: EntityManager, kind: Kind, one: PackedDocument<Body>, tape: string | null = null): Promise<void> {
  const { id, revision, aside, body, created } = one
  await manager.insert(DocumentEntity, { id, kind, revision, aside, body: body as object, tape, created: new Date(created) })
  await insertLog(manager, id, one.log)
}

async function insertLog(manager: EntityManager, document: string, log: PackedDocument<Body>['log']): Promise<void> {
  for (const { at, undoes = null, quiet = false, together = null, ...entry } of log)
    await manager.insert(EntryEntity, {
      ...entry,
      document,
      undoes,
      quiet,
      together,
      at: new Date(at),
      steps: entry.steps as object[],
      inverse: entry.inverse as object[],
    })
}

async function insertReceipt(
  manager: EntityManager,
  { order, at, look, deliveries = [], script = null, ...row }: PackedReceipt,
): Promise<void> {
  await manager.insert(SendEntity, {
    ...row,
    request: order as object,
    state: 'done',
    progress: 1,
    error: '',
    beat: null,
    look: look as object[],
    madeOf: row.madeOf as object,
    script: script as object | null,
    at: new Date(at),
  })
  for (const { destination, arrived, ...way } of deliveries) {
    // where it went need not be known here: then it is kept for this receipt alone, as one that is gone
    await manager.query(
      `insert into destination (id, name, kind, address, gone) values ($1, $2, 'folder', '', true) on conflict (id) do nothing`,
      [destination, way.to],
    )
    await manager.insert(DeliveryEntity, {
      ...way,
      id: randomUUID(),
      send: row.id,
      destination,
      progress: way.state === 'arrived' ? 1 : 0,
      nextTry: null,
      until: null,
      replaces: false,
      beyond: false,
      beat: null,
      arrived: arrived === null ? null : new Date(arrived),
      at: new Date(at),
    })
  }
}

async function insertTape(manager: EntityManager, { document, transcript, known, renditions }: PackedTape): Promise<void> {
  const { id } = document
  await insertDocument(manager, 'tape', document)
  await insertDocument(manager, 'transcript', transcript, id)
  await filePhrases(manager, id, transcript.body)
  const { tone, findings, origin, figures, added, ...facts } = known
  await manager.insert(TapeEntity, {
    ...facts,
    id,
    state: 'ready',
    progress: 1,
    error: '',
    twin: null,
    size: known.bytes,
    complete: true,
    tone: tone as object,
    findings: findings as object[],
    origin: origin as object,
    figures: figures as object | null,
    added: new Date(added),
  })
  for (const { id: rendition, did } of renditions)
    await manager.query(`insert into rendition (id, tape, state, progress, did) values ($1, $2, 'ready', 1, $3)`, [
      rendition,
      id,
      did === null ? null : JSON.stringify(did),
    ])
  await tell(manager, { about: 'tape', id })
}
