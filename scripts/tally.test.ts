import { expect, it } from 'vitest'
import { tally } from './tally'

const file = (name: string, ...tests: string[]) => ({
  name,
  status: tests.length && tests.every((test) => test === 'passed') ? 'passed' : 'failed',
  assertionResults: tests.map((status) => ({ status })),
})

it('has files run again of which a test failed, and counts them then', () => {
  expect(tally([file('good', 'passed', 'passed'), file('busy', 'passed', 'failed')], false)).toEqual({
    passed: 2,
    failed: 0,
    again: ['busy'],
  })
  expect(tally([file('busy', 'passed', 'passed')], false)).toEqual({ passed: 2, failed: 0, again: [] })
})

it('counts what fails to the last as failed, a file that cannot begin too', () => {
  expect(tally([file('bad', 'passed', 'failed', 'failed'), file('broken'), file('half begun', 'skipped')], true)).toEqual({
    passed: 1,
    failed: 4,
    again: [],
  })
})
