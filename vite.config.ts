import tailwind from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig, type Plugin } from 'vite'

const isolation = { 'Cross-Origin-Opener-Policy': 'same-origin', 'Cross-Origin-Embedder-Policy': 'require-corp' }

/** All files that the page may ask for, for what keeps them in the browser. */
const listFiles: Plugin = {
  name: 'list of files',
  generateBundle: {
    order: 'post',
    handler(_options, bundle) {
      const names = Object.keys(bundle).filter((name) => name.startsWith('assets/'))
      this.emitFile({ type: 'asset', fileName: 'assets.json', source: JSON.stringify(names.map((name) => `/${name}`)) })
    },
  },
}

export default defineConfig({
  plugins: [react(), tailwind(), listFiles],
  worker: { format: 'es' },
  assetsInclude: ['**/*.wasm'],
  server: { headers: isolation },
  build: {
    outDir: '../dist',
    emptyOutDir: true,
    target: 'es2022',
    chunkSizeWarningLimit: 1500,
    rollupOptions: {
      input: { index: 'web/index.html', boardKeeper: 'web/live/boardKeeper.ts' },
      // a service worker stands above what it serves, by a name that stays
      output: { entryFileNames: ({ name }) => (name === 'boardKeeper' ? '[name].js' : 'assets/[name]-[hash].js') },
    },
  },
})
