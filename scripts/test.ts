import { spawn } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, join } from 'node:path'
import { buildOnce } from './build'
import { requirePackages } from './machine'
import { tally, type FileReport } from './tally'

/** All checks; the last line counts them. */

requirePackages('postgresql', 'ffmpeg', 'chromium-headless-shell', 'pocketsphinx', 'pocketsphinx-en-us', 'mediainfo')
const top = join(import.meta.dirname, '..')
const folder = mkdtempSync(join(tmpdir(), 'plain-cut-checks-'))
const MOST_RUNS = 3
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

/**
 * Runs Vitest and counts its tests. Files of which a test failed are run again, beside less and from a fresh
 * start: a machine that was busy with something else for a moment is no fault of ours, and the log shows it.
 * A run that ends without a report, or badly though no test failed, is one failure.
 */
async function tests(report: string, ...args: string[]): Promise<void> {
  let files: string[] = []
  for (let run = 1; run <= MOST_RUNS; run++) {
    const file = join(folder, `${run}-${report}`)
    const fine = await tool('vitest', 'run', ...files, ...args, '--reporter=default', '--reporter=json', `--outputFile.json=${file}`)
    if (!existsSync(file)) return void failed++
    const { testResults } = JSON.parse(readFileSync(file, 'utf8')) as { testResults: FileReport[] }
    const count = tally(testResults, run === MOST_RUNS)
    passed += count.passed
    failed += count.failed || (fine || count.again.length ? 0 : 1)
    files = count.again
    if (!files.length) return
    console.log(`— run again: ${files.map((name) => basename(name)).join(', ')}`)
  }
}

await check('tsc', '--noEmit')
buildOnce()
await Promise.all([check('oxlint', '--deny-warnings'), check('oxfmt', '--check'), tests('unit.json')])
await tests('e2e.json', '--config', join('e2e', 'vitest.config.ts'))
rmSync(folder, { recursive: true })
console.log(`\n${passed} passed, ${failed} failed`)
process.exit(failed ? 1 : 0)
