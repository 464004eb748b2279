import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { requirePackages } from './machine'

/** All checks, one after the other; the last line counts them. */

requirePackages('postgresql', 'ffmpeg', 'chromium')
const top = join(import.meta.dirname, '..')
const folder = mkdtempSync(join(tmpdir(), 'plain-cut-checks-'))
let passed = 0
let failed = 0

function tool(name: string, ...args: string[]): boolean {
  console.log(`\n— ${name} ${args.join(' ')}`)
  return spawnSync(join(top, 'node_modules', '.bin', name), args, { cwd: top, stdio: 'inherit' }).status === 0
}

function check(name: string, ...args: string[]): void {
  if (tool(name, ...args)) passed++
  else failed++
}

/** Runs Vitest and counts its tests; a run that ends without a report is one failure. */
function tests(report: string, ...args: string[]): void {
  const file = join(folder, report)
  const fine = tool('vitest', 'run', ...args, '--reporter=default', '--reporter=json', `--outputFile.json=${file}`)
  try {
    const { numPassedTests, numFailedTests } = JSON.parse(readFileSync(file, 'utf8')) as { numPassedTests: number; numFailedTests: number }
    passed += numPassedTests
    failed += numFailedTests || (fine ? 0 : 1)
  } catch {
    failed++
  }
}

check('tsc', '--noEmit')
check('oxlint', '--deny-warnings')
tests('unit.json')
tests('e2e.json', '--config', join('e2e', 'vitest.config.ts'))
rmSync(folder, { recursive: true })
console.log(`\n${passed} passed, ${failed} failed`)
process.exit(failed ? 1 : 0)
