import { In, type EntityManager } from 'typeorm'
import type { BodyOf } from '../../contract/documents'
import type { Packed, PackedDocument, PackedTape } from '../../contract/storyFiles'

import { hangersOf, piecesIn, type StoryDocument } from '../../core/page/story'
import { ENDED, type PackedReceipt } from '../../contract/storyReceipts'
import { DeliveryEntity, type DeliveryRow } from '../delivery/rows'
import { DocumentEntity, SendEntity, TapeEntity, type SendRow } from '../entities'
import { logSince } from '../documents/log'
import { readPieces, tapesOfPiece } from '../documents/pieces'
import { notFound, Refusal } from '../problem'
import type { Services } from '../services'

/**
 * All that belongs to a story: its page, its pieces and those it uses, their tapes and all that was done to any of them; what
 * was sent of it, and where it went.
 */
export async function gather(services: Services, id: string): Promise<{ packed: Packed; receipts: PackedReceipt[] }> {
  const { database } = services
  // one moment of all of it
  return database.transaction('REPEATABLE READ', async (manager) => {
    const row = await manager.findOneBy(DocumentEntity, { id, kind: 'story' })
    if (!row) throw notFound('That story')
    const body = row.body as StoryDocument
    const stored = await readPieces(manager, `(d.id = any($1) or d.body ->> 'story' = $2)`, [piecesIn(body), id], { kept: true })
    // one question after the other: a transaction has one connection
    const pieces: Packed['pieces'] = []
    for (const { id: piece, revision, aside, created, piece: actuality } of stored) {
      const log = await logOf(manager, piece)
      pieces.push({ id: piece, revision, aside, created: created.toISOString(), body: actuality, log })
    }
    const filed = await manager.query<{ id: string }[]>(
      `select id from document where kind = 'tape' and deleted is null and body #> '{records,tape,stories}' ? $1`,
      [id],
    )
    const laid = hangersOf(body).flatMap(({ plays }) => ('tape' in plays ? plays.tape : []))
    const within = pieces.flatMap(({ body: piece }) => [...tapesOfPiece(piece)])
    const tapes: PackedTape[] = []
    for (const tape of [...new Set([...within, ...laid, ...filed.map((one) => one.id)])].sort()) tapes.push(await packedTape(manager, tape))
    const own = new Set([id, ...pieces.map((piece) => piece.id)])
    const sends = (await manager.find(SendEntity, { where: { state: 'done' }, order: { at: 'ASC' } })).filter(({ request }) =>
      own.has(request.what.id),
    )
    const ways = await manager.find(DeliveryEntity, {
      where: { send: In(sends.map((send) => send.id)), state: In([...ENDED]) },
      order: { at: 'ASC', to: 'ASC' },
    })
    return {
      packed: { story: await packedDocument<'story'>(manager, row.id), pieces, tapes },
      receipts: sends.map((send) =>
        packedReceipt(
          send,
          ways.filter((way) => way.send === send.id),
        ),
      ),
    }
  })
}

function packedReceipt(row: SendRow, ways: readonly DeliveryRow[]): PackedReceipt {
  const { id, request, at, fileName, frames, bytes, sha256, loudness, truePeak, look, madeOf, script } = row
  const deliveries = ways.map(({ destination, to, fileName: name, isScript, state, tries, error, proof, arrived }) => ({
    destination,
    to,
    fileName: name,
    isScript,
    state: state as (typeof ENDED)[number],
    tries,
    error,
    proof,
    arrived: arrived?.toISOString() ?? null,
  }))
  return { id, order: request, at: at.toISOString(), fileName, frames, bytes, sha256, loudness, truePeak, look, madeOf, script, deliveries }
}

const logOf = async (manager: EntityManager, id: string) => (await logSince(manager, id, 0)).map((entry) => ({ ...entry, at: entry.at! }))

async function packedDocument<K extends 'story' | 'tape' | 'transcript'>(
  manager: EntityManager,
  id: string,
): Promise<PackedDocument<BodyOf<K>>> {
  const { revision, aside, created, body } = await manager.findOneByOrFail(DocumentEntity, { id })
  return { id, revision, aside, created: created.toISOString(), body: body as BodyOf<K>, log: await logOf(manager, id) }
}

async function packedTape(manager: EntityManager, id: string): Promise<PackedTape> {
  const tape = await manager.createQueryBuilder(TapeEntity, 'tape').addSelect('tape.figures').where('tape.id = :id', { id }).getOne()
  const transcript = await manager.findOneBy(DocumentEntity, { tape: In([id]), kind: 'transcript' })
  if (!tape || !transcript) throw new Refusal(409, 'Not there', 'A tape that the story uses is not there.')
  if (tape.state !== 'ready')
    throw new Refusal(409, 'Still arriving', `The tape “${tape.fileName}” is still arriving. Try again once it is in.`)
  const { channels, frames, fileName, bytes, sha256, format, tone, findings, origin, figures, added } = tape
  return {
    document: await packedDocument<'tape'>(manager, id),
    transcript: await packedDocument<'transcript'>(manager, transcript.id),
    known: { channels, frames, fileName, bytes, sha256, format, tone, findings, origin, figures, added: added.toISOString() },
    renditions: await manager.query(`select id, did from rendition where tape = $1 and state = 'ready' order by id`, [id]),
    original: `tapes/${id}/original${/\.[A-Za-z0-9]{1,5}$/.exec(fileName)?.[0].toLowerCase() ?? ''}`,
  }
}
