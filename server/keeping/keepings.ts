import { randomUUID } from 'node:crypto'
import { once } from 'node:events'
import { createReadStream, createWriteStream } from 'node:fs'
import { basename, join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import type { KeepingInfo } from '../../contract/storyFiles'
import { fileNameFrom } from '../../core/page/fileName'
import { storyHead, type StoryDocument } from '../../core/page/story'
import { plainReason } from '../disk'
import { DocumentEntity } from '../entities'
import { shownName } from '../intake/intake'
import { log } from '../log'
import { tell } from '../notices'
import { notFound, Refusal } from '../problem'
import type { Services } from '../services'
import { bringBack } from './bringBack'
import { takeOut } from './takeOut'

/** Stories on their way out into a file and back, one after the other, in the background. */

const BEAT_MS = 1000
const GONE = '4 seconds'
const SHOWN = 'id, kind, state, progress, error, name, story, bytes::float8 as bytes, at'

export const keepings = ({ database }: Services): Promise<KeepingInfo[]> =>
  database.query<KeepingInfo[]>(`select ${SHOWN} from keeping order by at desc limit 30`)

const say = ({ database }: Pick<Services, 'database'>) => tell(database, { about: 'keepings' })

async function begin(services: Services, id: string, kind: 'out' | 'back', name: string, story: string | null): Promise<void> {
  await services.database.query('insert into keeping (id, kind, name, story) values ($1, $2, $3, $4)', [id, kind, name, story])
  await services.jobs.add('keep', { id })
  await say(services)
}

export async function askToTakeOut(services: Services, story: string): Promise<{ id: string }> {
  const row = await services.database.manager.findOneBy(DocumentEntity, { id: story, kind: 'story' })
  if (!row) throw notFound('That story')
  const id = randomUUID()
  await begin(services, id, 'out', storyHead(row.body as StoryDocument).slug, story)
  return { id }
}

/** What a story file holds that arrived whole is brought back. */
export async function bringBackArrived(services: Services, id: string, fileName: string): Promise<void> {
  const { store } = services
  await store.keep(join(store.arrivals, id), store.storyFile(id))
  await store.remove(join(store.arrivals, `${id}.json`))
  await begin(services, id, 'back', shownName(fileName), null)
}

/** The same for a file that lies on this machine. */
export async function askToBringBackFrom(services: Services, path: string): Promise<{ id: string }> {
  const source = createReadStream(path)
  const opened = await once(source, 'open').catch(() => null)
  if (!opened) throw notFound('That file')
  const id = randomUUID()
  const arriving = join(services.store.arrivals, id)
  try {
    await pipeline(source, createWriteStream(arriving))
  } catch (error) {
    await services.store.remove(arriving)
    throw error
  }
  await bringBackArrived(services, id, basename(path))
  return { id }
}

export async function cancelKeeping(services: Services, id: string): Promise<void> {
  const [rows] = (await services.database.query(
    `update keeping set state = 'cancelled' where id = $1 and state in ('waiting', 'working') returning id`,
    [id],
  )) as [unknown[]]
  if (!rows.length) throw notFound('What was under way')
  await say(services)
}

/** What a job does for one of them. Killed anywhere, it is begun anew by another; nothing half is left. */
export async function keep(services: Services, { id }: { id: string }): Promise<void> {
  const { database, store } = services
  const [[row]] = (await database.query(
    `update keeping set state = 'working', beat = now() where id = $1 and state in ('waiting', 'working')
      and (beat is null or beat < now() - interval '${GONE}') returning kind, story`,
    [id],
  )) as [{ kind: KeepingInfo['kind']; story: string | null }[], number]
  if (!row) return
  const off = new AbortController()
  let progress = 0
  const beat = setInterval(async () => {
    const [still] = (await database
      .query(`update keeping set beat = now(), progress = $2 where id = $1 and state = 'working' returning 1`, [id, progress])
      .catch(() => [[1]])) as [unknown[]]
    if (!still.length) off.abort(new Error('cancelled'))
    await say(services).catch(() => undefined)
  }, BEAT_MS)
  const folder = store.making(`keeping-${id}-${randomUUID().slice(0, 8)}`)
  const file = store.storyFile(id)
  const note = (share: number) => void (progress = share)
  const settle = (set: string, values: unknown[]) =>
    database.query(`update keeping set ${set}, beat = null where id = $1 and state = 'working'`, [id, ...values])
  /** Nobody needs the file that came any more: until then another may have to go on with it. */
  let over = false
  try {
    if (row.kind === 'out') {
      const made = `${folder}.zip`
      await takeOut(services, { id: row.story!, keeping: id }, made, folder, note, off.signal)
      if (off.signal.aborted) throw off.signal.reason
      const bytes = await store.size(made)
      await store.keep(made, file)
      await settle(`state = 'done', progress = 1, bytes = $2`, [bytes])
    } else {
      await bringBack(services, file, folder, note, off.signal, async (manager, story, slug) => {
        const [rows] = (await manager.query(
          `update keeping set state = 'done', progress = 1, story = $2, name = $3, beat = null
            where id = $1 and state = 'working' returning id`,
          [id, story, slug],
        )) as [unknown[]]
        // cancelled at the last moment: none of it is kept
        if (rows.length) return
        off.abort(new Error('cancelled'))
        throw off.signal.reason
      })
    }
    over = true
  } catch (error) {
    if (!(error instanceof Refusal) && !off.signal.aborted) log.error({ error, id }, 'keeping')
    if (!off.signal.aborted) await settle(`state = 'failed', error = $2`, [error instanceof Refusal ? error.message : plainReason(error)])
    over = true
  } finally {
    clearInterval(beat)
    await store.remove(folder)
    await store.remove(`${folder}.zip`)
    if (over && row.kind === 'back') await store.remove(file)
    await say(services).catch(() => undefined)
  }
}

/** Goes on with what an end of the server cut short. */
export async function resumeKeepings({ database, jobs }: Services): Promise<void> {
  const rows = await database.query<{ id: string }[]>(
    `select id from keeping where state in ('waiting', 'working') and (beat is null or beat < now() - interval '${GONE}')`,
  )
  for (const { id } of rows) await jobs.add('keep', { id })
}

/** A story file that is ready, and the name that it should have. */
export async function storyFileOf({ database, store }: Services, id: string): Promise<{ path: string; fileName: string; bytes: number }> {
  const [row] = await database.query<{ name: string; bytes: number; at: Date }[]>(
    `select name, bytes::float8 as bytes, at from keeping where id = $1 and kind = 'out' and state = 'done'`,
    [id],
  )
  if (!row) throw notFound('That file')
  const date = row.at.toISOString().slice(0, 10)
  const fileName = fileNameFrom('{slug}_{date}', { slug: row.name || 'story', client: '', date, length: 0 }, 'story.zip')
  return { path: store.storyFile(id), fileName, bytes: row.bytes }
}
