import { join } from 'node:path'
import type { DataSource } from 'typeorm'
import { renditionsOf, type TapeDocument } from '../../core/tape/tape'
import { plainReason } from '../disk'
import { DocumentEntity, TapeEntity } from '../entities'
import { log } from '../log'
import { tell } from '../notices'
import type { Services } from '../services'
import { treatAll, type RenditionOrder } from './treatAll'

/** Renditions are made of what was recorded, one after the other, each once; what another process left half made is begun again. */

const BEAT_MS = 1000
const GONE = '4 seconds'

/** Has those renditions of a tape made that nobody was asked for yet. */
export async function askForRenditions({ database, jobs }: Services, tape: string): Promise<void> {
  const row = await database.manager.findOneBy(DocumentEntity, { id: tape, kind: 'tape' })
  if (!row) return
  for (const { id } of renditionsOf(row.body as TapeDocument)) {
    const asked = await database.query<unknown[]>('insert into rendition (id, tape) values ($1, $2) on conflict do nothing returning id', [
      id,
      tape,
    ])
    if (asked.length) await jobs.add('rendition', { id })
  }
}

/** Makes one. Safe to do twice: the same bytes come, and lie there only once they are whole. Ends where its record is dropped. */
export async function makeRendition({ database, store, config }: Services, { id }: { id: string }): Promise<void> {
  const [[mine]] = (await database.query(
    `update rendition set state = 'working', beat = now() where id = $1 and state in ('waiting', 'working')
       and (beat is null or beat < now() - interval '${GONE}') returning tape`,
    [id],
  )) as [{ tape: string }[], number]
  if (!mine) return
  const { tape } = mine
  const order = await orderFor(database, join(config.data, 'media'), tape, id)
  const ended = async (state: 'ready' | 'failed', error = '') => {
    await database.query('update rendition set state = $2, error = $3 where id = $1', [id, state, error])
    await tell(database, { about: 'tape', id: tape })
  }
  if (!order) return ended('failed', 'The tape or the treatment has gone.')
  let progress = 0
  let wanted = true
  const beat = setInterval(() => {
    database
      .query(`update rendition set beat = now(), progress = $2 where id = $1`, [id, progress])
      .then(() => tell(database, { about: 'tape', id: tape }))
      .then(async () => (wanted = (await orderFor(database, order.media, tape, id)) !== null))
      .catch(() => undefined)
  }, BEAT_MS)
  try {
    const did = await treatAll(store, order, (share) => {
      progress = share
      return wanted
    })
    if (!did) return await forget(database, tape, id)
    await database.query('update rendition set did = $2, progress = 1 where id = $1', [id, JSON.stringify(did)])
    await database.manager.update(TapeEntity, { id: tape }, { disk: await store.sizeOfAll(store.tape(tape)) })
    await ended('ready')
  } catch (error) {
    log.error({ error, id, tape }, 'a rendition could not be made')
    await ended('failed', plainReason(error) ?? 'It could not be made.').catch(() => undefined)
  } finally {
    clearInterval(beat)
  }
}

/** What is to be done for a rendition; null where its tape or its record is not there. */
async function orderFor(database: DataSource, media: string, tape: string, id: string): Promise<RenditionOrder | null> {
  const document = await database.manager.findOneBy(DocumentEntity, { id: tape, kind: 'tape' })
  const row = await database.manager.findOneBy(TapeEntity, { id: tape })
  const rendition = document && renditionsOf(document.body as TapeDocument).find((one) => one.id === id)
  if (!row || !rendition) return null
  const { treatment, channels } = rendition
  return { media, sound: `${tape}.${id}`, channels, frames: row.frames, treatment, tone: row.tone.made }
}

/** One whose record is gone is not made on; where it comes back, by redo, it is asked for anew. */
async function forget(database: DataSource, tape: string, id: string): Promise<void> {
  await database.query('delete from rendition where id = $1', [id])
  await tell(database, { about: 'tape', id: tape })
}

/** What a process before this one left undone. */
export async function resumeRenditions({ database, jobs }: Services): Promise<void> {
  const rows = await database.query<{ id: string }[]>(`select id from rendition where state in ('waiting', 'working')`)
  for (const { id } of rows) await jobs.add('rendition', { id })
}
