/** What Vitest reports of a file of tests, as far as it is counted. */
export interface FileReport {
  name: string
  status: string
  assertionResults: { status: string }[]
}

export interface Tally {
  passed: number
  failed: number
  /** Files of which something failed; they are to be run again, and are not counted yet. */
  again: string[]
}

/** Counts the tests of a run. In the `last` one what failed has failed; a file that could not even begin is one failure. */
export function tally(files: readonly FileReport[], last: boolean): Tally {
  const count = { passed: 0, failed: 0, again: [] as string[] }
  for (const { name, status, assertionResults } of files) {
    const of = (what: string) => assertionResults.filter((one) => one.status === what).length
    if (status !== 'passed' && !last) count.again.push(name)
    else {
      count.passed += of('passed')
      count.failed += status === 'passed' ? 0 : Math.max(1, of('failed'))
    }
  }
  return count
}
