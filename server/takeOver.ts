import { startDeliveries } from './delivery/deliver'
import { endSilentTakes } from './intake/endSilentTakes'
import { log } from './log'
import type { Services } from './services'

/**
 * Work that another server process held and left when it ended: each kind says now and then that somebody
 * is at it, and what nobody said so of for a while is begun again by whoever sees it first.
 */

const LOOK_MS = 2000
const GONE = '4 seconds'

export class TakeOver {
  private timer: ReturnType<typeof setInterval> | undefined
  private looking = false
  private readonly since = new Date()

  constructor(private readonly services: Services) {}

  open(): void {
    this.timer = setInterval(() => void this.look(), LOOK_MS)
    this.timer.unref()
  }

  close(): void {
    clearInterval(this.timer)
  }

  private async look(): Promise<void> {
    if (this.looking) return
    this.looking = true
    try {
      await leftBehind(this.services)
      await endSilentTakes(this.services, this.since)
      await startDeliveries(this.services)
    } catch (error) {
      // the database is away: the next look finds it
      log.debug({ error }, 'taking over')
    } finally {
      this.looking = false
    }
  }
}

const QUEUES = [
  ['recognition', 'recognise'],
  ['bringing', 'bringIn'],
  ['listening', 'listenForTidy'],
  ['voicing', 'layLines'],
] as const

/** Has all work gone on with whose worker has not been heard of for a while. */
export async function leftBehind({ database, jobs }: Services): Promise<void> {
  for (const [table, queue] of QUEUES) {
    const [rows] = (await database.query(
      `update ${table} set beat = null where state = 'working' and beat < now() - interval '${GONE}' returning tape`,
    )) as [{ tape: string }[], number]
    for (const { tape } of rows) await jobs.add(queue, { tape })
  }
  const [renditions] = (await database.query(
    `update rendition set beat = null where state = 'working' and beat < now() - interval '${GONE}' returning id`,
  )) as [{ id: string }[], number]
  for (const { id } of renditions) await jobs.add('rendition', { id })
  const [tapes] = (await database.query(
    `update tape set tended = null where state = 'arriving' and tended < now() - interval '${GONE}' returning id`,
  )) as [{ id: string }[], number]
  for (const { id } of tapes) await jobs.add('intake', { id })
  const [keepings] = (await database.query(
    `update keeping set beat = null where state = 'working' and beat < now() - interval '${GONE}' returning id`,
  )) as [{ id: string }[], number]
  for (const { id } of keepings) await jobs.add('keep', { id })
  const [sends] = (await database.query(
    `update send set beat = null where state in ('waiting', 'working') and beat < now() - interval '${GONE}' returning id`,
  )) as [{ id: string }[], number]
  for (const { id } of sends) await jobs.add('send', { id })
}
