import { randomUUID } from 'node:crypto'
import { rename, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { LEAST_HEARD, type Listening } from '../../contract/listenings'
import type { HeardSide } from '../../core/tidy/listen/side'
import { resume, underLease, type LeasedWork } from '../lease'
import { tell } from '../notices'
import { notFound, Refusal } from '../problem'
import type { Services } from '../services'
import { tapeInfo } from '../tapes'
import { runThread } from '../thread'
import type { ListenToSideOrder, ListenToSideReport } from './listenToSide'

/** Listening to tapes for Tidy: asked for once by whoever opens it, done side by side, and kept beside the tape's sound. */

interface Row {
  tape: string
  run: string
  state: Listening['state']
  /** The channels of each side. */
  sides: number[][]
  progress: number
  error: string
  /** So much of the tape; a string, as the database has it. */
  frames: string
}

const WORK: LeasedWork<Row> = { table: 'listening', queue: 'listenForTidy', asking: 'run', failed: 'This tape could not be listened to.' }
/** So many threads at once: one a core. */
const AT_ONCE = 2

const noted = ({ database }: Services, tape: string) => tell(database, { about: 'listening', tape })

const rowOf = async ({ database }: Services, tape: string): Promise<Row | undefined> => {
  const [row] = await database.query<Row[]>('select * from listening where tape = $1', [tape])
  return row
}

const channelsOf = async ({ database }: Services, tape: string): Promise<number[][]> =>
  (await tapeInfo(database, tape)).sides.map(({ channels }) => [...channels])

/** How far listening to a tape has come; null where nobody asked, or asked of other sides than it has now. */
export async function listeningOf(services: Services, tape: string): Promise<Listening | null> {
  const [row, sides] = await Promise.all([rowOf(services, tape), channelsOf(services, tape)])
  if (!row || JSON.stringify(row.sides) !== JSON.stringify(sides)) return null
  const { state, progress, error, frames } = row
  return { tape, state, progress: state === 'done' ? 1 : progress, error, frames: Number(frames) }
}

/**
 * Has a tape listened to, as far as it has come. Asked again it goes on, and begins anew where that failed, or where the tape has
 * other sides by now, or where more of it has come since.
 */
export async function askToListen(services: Services, tape: string): Promise<Listening> {
  const { database, jobs } = services
  const info = await tapeInfo(database, tape)
  if (info.state === 'failed') throw new Refusal(409, 'Not there', 'That tape did not arrive: there is no sound to listen to.')
  if (info.state === 'arriving' && info.frames < LEAST_HEARD)
    throw new Refusal(409, 'Not there yet', 'That tape is still arriving. Its sound can be listened to once ten seconds of it are in.')
  const sides = JSON.stringify(await channelsOf(services, tape))
  await database.query(
    `insert into listening (tape, run, state, sides, frames) values ($1, $2, 'waiting', $3, $4)
     on conflict (tape) do update set run = $2, state = 'waiting', sides = $3, frames = $4, progress = 0, error = '', beat = null
     where listening.state = 'failed' or listening.sides <> $3::jsonb or (listening.state = 'done' and listening.frames < $4)`,
    [tape, randomUUID(), sides, info.frames],
  )
  await noted(services, tape)
  await jobs.add(WORK.queue, { tape })
  return (await listeningOf(services, tape))!
}

/** Calls it off. */
export async function cancelListening(services: Services, tape: string): Promise<void> {
  await services.database.query(`delete from listening where tape = $1 and state in ('waiting', 'working')`, [tape])
  await noted(services, tape)
}

/** What was heard on each side, as JSON. */
export async function heardOn(services: Services, tape: string): Promise<string> {
  const { store } = services
  if ((await listeningOf(services, tape))?.state !== 'done') throw notFound('What was heard on that tape')
  const path = store.heard(tape)
  return (await store.stretch(path, 0, await store.size(path))).toString()
}

export const resumeListenings = (services: Services): Promise<void> => resume(services, WORK)

/** Listens to one tape. A second one beside it leaves at once. */
export const listenForTidy = (services: Services, { tape }: { tape: string }): Promise<void> =>
  underLease(
    services,
    WORK,
    tape,
    (row, signal) => listen(services, row, signal),
    () => noted(services, tape),
  )

async function listen(services: Services, { tape, run, sides, frames }: Row, signal: AbortSignal): Promise<void> {
  const { database, store, config } = services
  const heard = sides.map(() => ({}) as HeardSide)
  const parts = sides.flatMap((channels, side) => (['voices', 'spots'] as const).map((to) => ({ channels, side, to, share: 0 })))
  const waiting = [...parts]
  const worker = async () => {
    for (let next = waiting.shift(); next && !signal.aborted; next = waiting.shift()) {
      const part = next
      const order: ListenToSideOrder = {
        media: join(config.data, 'media'),
        tape,
        channels: part.channels,
        frames: Number(frames),
        to: part.to,
      }
      await runThread<ListenToSideReport>('listenToSide', order, async (report) => {
        if ('heard' in report) Object.assign(heard[part.side], report.heard)
        else {
          part.share = report.share
          const progress = parts.reduce((sum, { share }) => sum + share, 0) / parts.length
          await database.query('update listening set progress = $3 where tape = $1 and run = $2', [tape, run, progress])
        }
        return !signal.aborted
      })
      part.share = 1
    }
  }
  await Promise.all(Array.from({ length: AT_ONCE }, worker))
  if (signal.aborted) return
  // whole or not at all
  const path = store.heard(tape)
  await writeFile(`${path}.${run}`, JSON.stringify(heard))
  await rename(`${path}.${run}`, path)
  await database.query(`update listening set state = 'done', beat = null where tape = $1 and run = $2`, [tape, run])
}
