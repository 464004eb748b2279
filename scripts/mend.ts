import { join, resolve } from 'node:path'
import { openDatabase } from '../server/database'
import { faultyDocuments, mend } from '../server/documents/mend'
import { startCluster } from './cluster'
import { requirePackages } from './machine'

/**
 * Finds documents that do not validate and says what is wrong with each; with --mend, mends those that can be. Plain Cut
 * must not be running.
 */

requirePackages('postgresql')
const data = resolve(process.env.PLAIN_CUT_DATA ?? join(import.meta.dirname, '..', '.data'))
const cluster = await startCluster(data)
const database = await openDatabase(cluster.url)
const faulty = await faultyDocuments(database)
for (const { id, kind, faults, mendable } of faulty) {
  console.log(`${kind} ${id}: ${faults.join('; ')}`)
  if (!process.argv.includes('--mend')) continue
  if (mendable) await mend(database, id)
  console.log(mendable ? '  mended' : '  left as it is: look at it by hand')
}
console.log(
  faulty.length ? `${faulty.length} ${faulty.length === 1 ? 'document does' : 'documents do'} not validate.` : 'All documents validate.',
)
await database.destroy()
await cluster.stop()
