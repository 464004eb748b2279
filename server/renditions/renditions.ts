import { join } from 'node:path'
import { renditionsOf, type TapeDocument } from '../../core/tape/tape'
import { plainReason } from '../disk'
import { DocumentEntity, TapeEntity } from '../entities'
import { log } from '../log'
import { tell } from '../notices'
import type { Services } from '../services'
import { runThread } from '../thread'
import type { MakeRenditionOrder } from './make'

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

/** Makes one. Safe to do twice: the same bytes come, and lie there only once they are whole. */
export async function makeRendition({ database, store, config }: Services, { id }: { id: string }): Promise<void> {
  const [[mine]] = (await database.query(
    `update rendition set state = 'working', beat = now() where id = $1 and state in ('waiting', 'working')
       and (beat is null or beat < now() - interval '${GONE}') returning tape`,
    [id],
  )) as [{ tape: string }[], number]
  if (!mine) return
  const { tape } = mine
  const beat = setInterval(
    () => void database.query('update rendition set beat = now() where id = $1', [id]).catch(() => undefined),
    BEAT_MS,
  )
  const ended = async (state: 'ready' | 'failed', error = '') => {
    await database.query('update rendition set state = $2, error = $3 where id = $1', [id, state, error])
    await tell(database, { about: 'tape', id: tape })
  }
  try {
    const document = await database.manager.findOneBy(DocumentEntity, { id: tape, kind: 'tape' })
    const row = await database.manager.findOneBy(TapeEntity, { id: tape })
    const rendition = document && renditionsOf(document.body as TapeDocument).find((one) => one.id === id)
    if (!row || !rendition) return await ended('failed', 'The tape or the treatment has gone.')
    const { treatment, channels } = rendition
    const order: MakeRenditionOrder = {
      media: join(config.data, 'media'),
      sound: `${tape}.${id}`,
      channels,
      frames: row.frames,
      treatment,
      tone: row.tone.made,
    }
    await runThread('makeRendition', order, () => undefined)
    await database.manager.update(TapeEntity, { id: tape }, { disk: await store.sizeOfAll(store.tape(tape)) })
    await ended('ready')
  } catch (error) {
    log.error({ error, id, tape }, 'a rendition could not be made')
    await ended('failed', plainReason(error) ?? 'It could not be made.').catch(() => undefined)
  } finally {
    clearInterval(beat)
  }
}

/** What a process before this one left undone. */
export async function resumeRenditions({ database, jobs }: Services): Promise<void> {
  const rows = await database.query<{ id: string }[]>(`select id from rendition where state in ('waiting', 'working')`)
  for (const { id } of rows) await jobs.add('rendition', { id })
}
