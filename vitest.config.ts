import { defineConfig } from 'vitest/config'

// what is tested here keeps nothing behind: a fresh world for each file would take longer than the tests
export default defineConfig({
  test: {
    include: ['{core,contract,server,web,scripts,measure}/**/*.test.ts'],
    testTimeout: 20_000,
    pool: 'threads',
    maxWorkers: 2,
    isolate: false,
  },
})
