import { DatabaseError, type Pool } from 'pg'
import type { DataSource } from 'typeorm'
import type { PostgresDriver } from 'typeorm/driver/postgres/PostgresDriver.js'
import type { Taking } from './taking'
import { ACTS, valuesOf } from './write'

interface Waiting {
  taking: Taking
  done: (written: boolean) => void
  failed: (error: unknown) => void
}

/** Of each database: what waits to be written until what is being written is. */
const queues = new WeakMap<DataSource, Waiting[]>()

/**
 * Writes what was taken in one statement, without a lock, if the document is still what it was taken to be and nobody holds
 * it; resolves to whether it was, and so was written. What several documents wait for is written together: the database
 * then makes one thing safe, not one a document. Rejects with DatabaseError where an act of the same id is there.
 */
export function writeAtOnce(database: DataSource, taking: Taking): Promise<boolean> {
  return new Promise((done, failed) => {
    const waiting = { taking, done, failed }
    const queue = queues.get(database)
    if (queue) return void queue.push(waiting)
    queues.set(database, [waiting])
    void workOff(database)
  })
}

async function workOff(database: DataSource): Promise<void> {
  const queue = queues.get(database)!
  while (queue.length) await writeAll(database, queue.splice(0))
  queues.delete(database)
}

/** Never throws. What fails together is tried again one by one, so that none fails by another. */
async function writeAll(database: DataSource, all: readonly Waiting[]): Promise<void> {
  try {
    const written = await writtenBy(
      database,
      all.map(({ taking }) => taking),
    )
    for (const { taking, done } of all) done(written.has(taking.current.id))
  } catch (error) {
    if (all.length === 1 || !(error instanceof DatabaseError)) for (const { failed } of all) failed(error)
    else for (const one of all) await writeAll(database, [one])
  }
}

/** The statement has a name, which TypeORM cannot give it: the database then plans it once a connection, not each time. */
async function writtenBy(database: DataSource, all: readonly Taking[]): Promise<Set<string>> {
  const pool = (database.driver as PostgresDriver).master as Pool
  const { rows } = await pool.query<{ id: string }>({ name: 'acts', text: ACTS, values: valuesOf(all) })
  return new Set(rows.map(({ id }) => id))
}
