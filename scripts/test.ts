import { spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { buildOnce } from './build'
import { requirePackages } from './machine'

/** All checks; the last line counts them. */

requirePackages('postgresql', 'ffmpeg', 'chromium', 'pocketsphinx', 'pocketsphinx-en-us')
const top = join(import.meta.dirname, '..')
const folder = mkdtempSync(join(tmpdir(), 'plain-cut-checks-'))
let passed = 0
let failed = 0

/** Runs a tool to its end, then prints what it said; tools that run beside each other do not mix. */
function tool(name: string, ...args: string[]): Promise<boolean> {
  return new Promise((done) => {
    const child = spawn(join(top, 'node_modules', '.bin', name), args, { cwd: top, stdio: ['ignore', 'pipe', 'pipe'] })
    const said: Buffer[] = []
    child.stdout.on('data', (chunk: Buffer) => said.push(chunk))
    child.stderr.on('data', (chunk: Buffer) => said.push(chunk))
    child.on('close', (code) => {
      console.log(`\n— ${name} ${args.join(' ')}\n${Buffer.concat(said).toString()}`)
      done(code === 0)
    })
  })
}

async function check(name: string, ...args: string[]): Promise<void> {
  if (await tool(name, ...args)) passed++
  else failed++
}

/** Runs Vitest and counts its tests; a run that ends without a report is one failure. */
async function tests(report: string, ...args: string[]): Promise<void> {
  const file = join(folder, report)
  const fine = await tool('vitest', 'run', ...args, '--reporter=default', '--reporter=json', `--outputFile.json=${file}`)
  try {
    const { numPassedTests, numFailedTests } = JSON.parse(readFileSync(file, 'utf8')) as { numPassedTests: number; numFailedTests: number }
    passed += numPassedTests
    failed += numFailedTests || (fine ? 0 : 1)
  } catch {
    failed++
  }
}

await check('tsc', '--noEmit')
buildOnce()
await Promise.all([check('oxlint', '--deny-warnings'), tests('unit.json')])
await tests('e2e.json', '--config', join('e2e', 'vitest.config.ts'))
rmSync(folder, { recursive: true })
console.log(`\n${passed} passed, ${failed} failed`)
process.exit(failed ? 1 : 0)
