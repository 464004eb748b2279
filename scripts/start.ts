import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { buildOnce } from './build'
import { startCluster } from './cluster'
import { requirePackages } from './machine'
import { serve } from './serving'

const port = Number(process.env.PORT ?? 4170)
const data = resolve(process.env.PLAIN_CUT_DATA ?? join(import.meta.dirname, '..', '.data'))
const running = join(data, 'running.json')

/** Who serves from this folder already; null where a note of it is left over from one that was killed. */
function beside(): { pid: number; port: number } | null {
  if (!existsSync(running)) return null
  const note = JSON.parse(readFileSync(running, 'utf8')) as { pid: number; port: number }
  try {
    process.kill(note.pid, 0)
    return readFileSync(`/proc/${note.pid}/cmdline`, 'utf8').includes('start.ts') ? note : null
  } catch {
    return null
  }
}

const other = beside()
if (other) {
  console.log(`Plain Cut runs already: http://localhost:${other.port}`)
  process.exit(0)
}
requirePackages('postgresql', 'ffmpeg', 'pocketsphinx', 'pocketsphinx-en-us')
mkdirSync(data, { recursive: true })
writeFileSync(running, JSON.stringify({ pid: process.pid, port }))

let leave: () => Promise<void> = async () => rmSync(running, { force: true })
let leaving = false
const end = async (code: number) => {
  if (leaving) return
  leaving = true
  await leave().catch(() => undefined)
  process.exit(code)
}
process.on('SIGINT', () => void end(0))
process.on('SIGTERM', () => void end(0))

try {
  buildOnce()
  console.log('Starting the database …')
  const cluster = await startCluster(data, true)
  leave = async () => {
    await cluster.stop()
    rmSync(running, { force: true })
  }
  const server = await serve({ PORT: String(port), PLAIN_CUT_DATA: data, PLAIN_CUT_DATABASE: cluster.url })
  leave = async () => {
    await server.stop()
    await cluster.stop()
    rmSync(running, { force: true })
  }
  server.child.on('exit', () => void end(1))
  console.log(`\nPlain Cut is at http://localhost:${port}\nCtrl-C stops it.`)
} catch (error) {
  console.error(
    (error as Error).message.includes('before it listened')
      ? `Port ${port} may be taken: choose another with PORT=… npm start.`
      : (error as Error).message,
  )
  await end(1)
}
