import { createHash } from 'node:crypto'
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { spawnSync } from 'node:child_process'

const top = join(import.meta.dirname, '..')
const stamp = join(top, 'dist', '.built-from')

function* files(path: string): Generator<string> {
  for (const entry of readdirSync(path, { withFileTypes: true }))
    if (entry.isDirectory()) yield* files(join(path, entry.name))
    else yield join(path, entry.name)
}

/** Builds the interface, unless what it is made from has not changed since it was last built. */
export function buildOnce(): void {
  const hash = createHash('sha256')
  const sources = ['web', 'core', 'contract'].flatMap((folder) => [...files(join(top, folder))]).filter((path) => !path.includes('.test.'))
  for (const path of [...sources, join(top, 'package-lock.json'), join(top, 'vite.config.ts')]) hash.update(path).update(readFileSync(path))
  const now = hash.digest('hex')
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return
  console.log('Building the interface …')
  // in a process of its own, which takes its memory along when it ends
  const { status } = spawnSync(join(top, 'node_modules', '.bin', 'vite'), ['build', join(top, 'web'), '--config', join(top, 'vite.config.ts'), '--logLevel', 'warn'], { cwd: top, stdio: 'inherit' })
  if (status !== 0) throw new Error('The interface could not be built.')
  writeFileSync(stamp, now)
}
