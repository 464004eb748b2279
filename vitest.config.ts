import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: { include: ['{core,contract,server,web,scripts,measure}/**/*.test.ts'], testTimeout: 20_000 },
})
