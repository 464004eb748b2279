import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'

/** Lines that can be read at a glance, and files that are about one thing. */

const LONGEST_LINE = 140
const LONGEST_FILE = 400
/** A longer file says on its top why it is one. */
const WHY = /One file, because/

const top = join(import.meta.dirname, '..')
const files = execFileSync('git', ['ls-files', '*.ts', '*.tsx', '*.mjs', '*.css'], { cwd: top, encoding: 'utf8' })
  .split('\n')
  .filter(Boolean)
const linesOf = (file: string): string[] => readFileSync(join(top, file), 'utf8').split('\n')

it('no line is too long to be read at a glance', () => {
  expect(files.length).toBeGreaterThan(500)
  const long = files.flatMap((file) => linesOf(file).flatMap((line, i) => (line.length > LONGEST_LINE ? [`${file}:${i + 1}`] : [])))
  expect(long).toEqual([])
})

it('a long file says why it is one file', () => {
  const long = files.filter((file) => linesOf(file).length > LONGEST_FILE)
  expect(long.filter((file) => !WHY.test(linesOf(file).slice(0, 30).join('\n')))).toEqual([])
})
