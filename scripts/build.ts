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

/** Builds the interface and the server, unless what they are made from has not changed since they were last built. */
export function buildOnce(): void {
  const hash = createHash('sha256')
  const sources = ['web', 'core', 'contract', 'server', 'demo']
    .flatMap((folder) => [...files(join(top, folder))])
    .filter((path) => /\.(ts|tsx|mjs|css|html)$/.test(path) && !path.includes('.test.'))
  for (const path of [...sources, join(top, 'package-lock.json'), join(top, 'vite.config.ts'), join(top, 'server', 'vite.config.ts')])
    hash.update(path).update(readFileSync(path))
  const now = hash.digest('hex')
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return
  console.log('Building …')
  // in a process of its own, which takes its memory along when it ends; for use, also where tests ask for it
  for (const [root, config] of [
    ['web', 'vite.config.ts'],
    ['server', join('server', 'vite.config.ts')],
  ]) {
    const { status } = spawnSync(
      join(top, 'node_modules', '.bin', 'vite'),
      ['build', join(top, root), '--config', join(top, config), '--logLevel', 'warn'],
      { cwd: top, stdio: 'inherit', env: { ...process.env, NODE_ENV: 'production' } },
    )
    if (status !== 0) throw new Error(`What is in ${root}/ could not be built.`)
  }
  writeFileSync(stamp, now)
}
