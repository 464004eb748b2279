import { createHash } from 'node:crypto'
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { build } from 'vite'

const top = join(import.meta.dirname, '..')
const stamp = join(top, 'dist', '.built-from')

function* files(path: string): Generator<string> {
  for (const entry of readdirSync(path, { withFileTypes: true }))
    if (entry.isDirectory()) yield* files(join(path, entry.name))
    else yield join(path, entry.name)
}

/** Builds the interface, unless what it is made from has not changed since it was last built. */
export async function buildOnce(): Promise<void> {
  const hash = createHash('sha256')
  const sources = ['web', 'core', 'contract'].flatMap((folder) => [...files(join(top, folder))]).filter((path) => !path.includes('.test.'))
  for (const path of [...sources, join(top, 'package-lock.json'), join(top, 'vite.config.ts')]) hash.update(path).update(readFileSync(path))
  const now = hash.digest('hex')
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return
  console.log('Building the interface …')
  await build({ root: join(top, 'web'), configFile: join(top, 'vite.config.ts'), logLevel: 'warn' })
  writeFileSync(stamp, now)
}
