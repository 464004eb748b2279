import { chmodSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { TestProject } from 'vitest/node'
import { buildOnce } from '../scripts/build'
import { freePort, startCluster } from '../scripts/cluster'
import { serve } from '../scripts/serving'

declare module 'vitest' {
  interface ProvidedContext {
    /** Where the application is, with the demo in it. */
    address: string
    /** For tests that start a server of their own: the database, and the folder with the media. */
    database: string
    data: string
  }
}

/** A cluster, a port and a server of the tests' own, with the demo. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  buildOnce()
  const data = mkdtempSync(join(tmpdir(), 'plain-cut-e2e-'))
  chmodSync(data, 0o755) // the database account must reach into it
  const cluster = await startCluster(data)
  const port = await freePort()
  const server = await serve({ PORT: String(port), PLAIN_CUT_DATA: data, PLAIN_CUT_DATABASE: cluster.url })
  project.provide('address', `http://localhost:${port}`)
  project.provide('database', cluster.url)
  project.provide('data', data)
  return async () => {
    await server.stop()
    await cluster.stop()
    rmSync(data, { recursive: true, force: true })
  }
}
