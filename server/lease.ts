import { plainReason } from './disk'
import { log } from './log'
import { Refusal } from './problem'
import type { Services } from './services'

/**
 * Work on a tape that may outlive a server: a row of a table with a state, which whoever works on it
 * holds by saying so again and again. One that was silent for longer has gone, and another goes on.
 */

const BEAT_MS = 1000
const GONE = '4 seconds'
/** By then whoever seems to be at it has said so again, or has gone. */
const AGAIN_MS = 4500

export interface LeasedWork<Row> {
  table: 'recognition' | 'bringing' | 'listening' | 'voicing'
  queue: 'recognise' | 'bringIn' | 'listenForTidy' | 'layLines'
  /** The column that says which asking it is: another asking is other work. */
  asking: keyof Row & ('run' | 'act')
  /** What is said of work that failed, before the reason. */
  failed: string
}

const OPEN = `state in ('waiting', 'working')`

/**
 * Does the work on a tape, unless somebody is at it. `signal`: it was called off, or asked for anew.
 * `beaten` is called each second, and at the end.
 */
export async function underLease<Row extends object>(
  { database, jobs }: Services,
  { table, queue, asking, failed }: LeasedWork<Row>,
  tape: string,
  work: (row: Row, signal: AbortSignal) => Promise<void>,
  beaten: (row: Row) => Promise<unknown>,
): Promise<void> {
  const [[row]] = (await database.query(
    `update ${table} set state = 'working', beat = now() where tape = $1 and ${OPEN}
      and (beat is null or beat < now() - interval '${GONE}') returning *`,
    [tape],
  )) as [Row[], number]
  if (!row) {
    const left = await database.query<unknown[]>(`select 1 from ${table} where tape = $1 and ${OPEN}`, [tape])
    if (left.length) setTimeout(() => void jobs.add(queue, { tape }).catch(() => undefined), AGAIN_MS).unref()
    return
  }
  const mine = [tape, row[asking]]
  const off = new AbortController()
  const beat = setInterval(async () => {
    const [still] = (await database
      .query(`update ${table} set beat = now() where tape = $1 and ${asking} = $2 returning 1`, mine)
      .catch(() => [[1]])) as [unknown[]]
    if (!still.length) off.abort()
    await beaten(row).catch(() => undefined)
  }, BEAT_MS)
  try {
    await work(row, off.signal)
  } catch (error) {
    if (!off.signal.aborted) {
      off.abort()
      log.error({ error, tape }, table)
      await database.query(`update ${table} set state = 'failed', beat = null, error = $3 where tape = $1 and ${asking} = $2`, [
        ...mine,
        `${failed} ${error instanceof Refusal ? error.message : plainReason(error)}`,
      ])
    }
  } finally {
    clearInterval(beat)
    await beaten(row).catch(() => undefined)
  }
}

/** Has all of it gone on with that an end of the server cut short. */
export async function resume({ database, jobs }: Services, { table, queue }: Pick<LeasedWork<never>, 'table' | 'queue'>): Promise<void> {
  for (const { tape } of await database.query<{ tape: string }[]>(`select tape from ${table} where ${OPEN}`))
    await jobs.add(queue, { tape })
}
