import { defineConfig } from 'vite'
import { THREADS } from './threads.ts'

/** The server and its threads, each a file beside the others, so that they begin fast. */
export default defineConfig({
  build: {
    ssr: true,
    outDir: '../built',
    emptyOutDir: true,
    target: 'node20',
    sourcemap: true,
    rollupOptions: {
      input: {
        main: 'server/main.ts',
        beginThread: 'server/beginThread.mjs',
        ...Object.fromEntries(Object.entries(THREADS).map(([name, path]) => [name, `server/${path}.ts`])),
      },
      output: { entryFileNames: '[name].js', chunkFileNames: '[name]-[hash].js' },
    },
  },
})
