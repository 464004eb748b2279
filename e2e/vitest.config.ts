import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    root: import.meta.dirname,
    include: ['*.e2e.ts'],
    globalSetup: ['./setup.ts'],
    testTimeout: 60_000,
    hookTimeout: 120_000,
    // two lanes beside each other, since much of it is waiting; in each one Chromium at a time on a server of its own
    maxWorkers: 2,
    // nothing is kept in modules from one file to the next but the browser, which each file launches anew
    isolate: false,
    env: { PLAIN_CUT_RECOGNISE: 'asked' },
  },
})
