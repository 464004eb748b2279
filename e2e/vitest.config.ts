import { defineConfig } from 'vitest/config'
import { BaseSequencer, type TestSpecification } from 'vitest/node'

/** Files that take longest, the longest first: begun last, one lane would wait for the other. */
const LONG = ['layout', 'bringWords', 'anyKeys', 'record']

class LongFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const rank = ({ moduleId }: TestSpecification) =>
      (LONG.findIndex((name) => moduleId.endsWith(`/${name}.e2e.ts`)) + LONG.length + 1) % (LONG.length + 1)
    return (await super.sort(files)).sort((a, b) => rank(a) - rank(b))
  }
}

export default defineConfig({
  test: {
    root: import.meta.dirname,
    include: ['*.e2e.ts'],
    globalSetup: ['./setup.ts'],
    testTimeout: 60_000,
    hookTimeout: 120_000,
    // two lanes beside each other, one a core; in each one Chromium at a time on a server of its own
    maxWorkers: 2,
    sequence: { sequencer: LongFirst },
    // nothing is kept in modules from one file to the next but the browser, which each file launches anew
    isolate: false,
    env: { PLAIN_CUT_RECOGNISE: 'asked' },
  },
})
