// The one file that runs before anything is installed: brings in the npm packages where they are
// missing or no longer what the lock says, then hands over to scripts/<name>.ts.
import { spawn, spawnSync } from 'node:child_process'
import { copyFileSync, existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'

const top = join(import.meta.dirname, '..')
const [name, ...rest] = process.argv.slice(2)
const lock = join(top, 'package-lock.json')
const installed = join(top, 'node_modules', '.installed-lock.json')
const same = existsSync(installed) && readFileSync(installed, 'utf8') === readFileSync(lock, 'utf8')

if (!same) {
  console.log('Installing npm packages …')
  const { status } = spawnSync('npm', ['ci', '--no-fund', '--no-audit', '--loglevel=error'], { cwd: top, stdio: 'inherit' })
  if (status !== 0) process.exit(status ?? 1)
  copyFileSync(lock, installed)
}

// Signals reach the whole process group; this one only waits for the other's end.
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child?.kill(signal))
const child = spawn(process.execPath, ['--import', 'tsx', join(top, 'scripts', `${name}.ts`), ...rest], { cwd: top, stdio: 'inherit' })
child.on('exit', (code, signal) => process.exit(code ?? (signal ? 1 : 0)))
