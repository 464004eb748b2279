import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    root: import.meta.dirname,
    include: ['*.e2e.ts'],
    globalSetup: ['./setup.ts'],
    testTimeout: 60_000,
    hookTimeout: 120_000,
    // one machine, one Chromium at a time: what is timed by ear must not starve
    fileParallelism: false,
  },
})
