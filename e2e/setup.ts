import { rmSync } from 'node:fs'
import type { TestProject } from 'vitest/node'
import { buildOnce } from '../scripts/build'
import { freePort, startCluster } from '../scripts/cluster'
import { ownFolder } from '../scripts/leftOvers'
import { serve } from '../scripts/serving'
import type { Application } from './here'
import { leaveUnvoiced } from './unvoiced'

/** A cluster, a port and a server of the tests' own, with the demo. */
async function start(): Promise<Application & { stop: () => Promise<void> }> {
  const data = ownFolder('e2e')
  const cluster = await startCluster(data)
  const port = await freePort()
  const server = await serve({ PORT: String(port), PLAIN_CUT_DATA: data, PLAIN_CUT_DATABASE: cluster.url, PLAIN_CUT_RECOGNISE: 'asked' })
  const address = `http://localhost:${port}`
  await leaveUnvoiced(address)
  const stop = async () => {
    await server.stop()
    await cluster.stop()
    rmSync(data, { recursive: true, force: true })
  }
  return { address, database: cluster.url, data, stop }
}

/** One application for each lane of test files. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  buildOnce()
  const lanes = await Promise.all(Array.from({ length: project.config.maxWorkers }, start))
  project.provide(
    'lanes',
    lanes.map(({ address, database, data }) => ({ address, database, data })),
  )
  return async () => {
    await Promise.all(lanes.map(({ stop }) => stop()))
  }
}
