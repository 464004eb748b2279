import { spawnSync } from 'node:child_process'
import { chmodSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

/** Folders of tests and measurements, each with a database of its own, and what is left of those that were killed. */

const OWNER = 'owner.pid'

const isAlive = (pid: number): boolean => {
  try {
    process.kill(pid, 0)
    return true
  } catch {
    return false
  }
}

/** Ends the databases of killed runs of a kind, and removes their folders. */
export function endLeftOvers(kind: string): void {
  for (const name of readdirSync(tmpdir())) {
    const folder = join(tmpdir(), name)
    const owner = join(folder, OWNER)
    if (!name.startsWith(`plain-cut-${kind}-`) || !existsSync(owner) || isAlive(Number(readFileSync(owner, 'utf8')))) continue
    const postmaster = join(folder, 'database', 'postmaster.pid')
    const pid = existsSync(postmaster) ? Number(readFileSync(postmaster, 'utf8').split('\n')[0]) : 0
    // only a database, and only the one of this folder
    if (pid && spawnSync('ps', ['-o', 'args=', '-p', String(pid)], { encoding: 'utf8' }).stdout.includes(join(folder, 'database')))
      process.kill(pid, 'SIGINT')
    rmSync(folder, { recursive: true, force: true, maxRetries: 20, retryDelay: 100 })
  }
}

/** A folder of one's own that the database account can reach; what killed runs of this kind left goes first. */
export function ownFolder(kind: string): string {
  endLeftOvers(kind)
  const folder = mkdtempSync(join(tmpdir(), `plain-cut-${kind}-`))
  chmodSync(folder, 0o755)
  writeFileSync(join(folder, OWNER), String(process.pid))
  return folder
}
