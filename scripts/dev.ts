import { join, resolve } from 'node:path'
import { createServer } from 'vite'
import { startCluster } from './cluster'
import { requirePackages } from './machine'
import { serve } from './serving'

/** The interface with hot reload; the server starts again with this command. */
requirePackages('postgresql', 'ffmpeg', 'pocketsphinx', 'pocketsphinx-en-us')
const top = join(import.meta.dirname, '..')
const port = Number(process.env.PORT ?? 4171)
const data = resolve(process.env.PLAIN_CUT_DATA ?? join(top, '.data'))
const cluster = await startCluster(data)
const origin = `http://localhost:${port}`
const server = await serve(
  { PORT: String(port + 1), PLAIN_CUT_DATA: data, PLAIN_CUT_DATABASE: cluster.url, PLAIN_CUT_WEB: 'none', PLAIN_CUT_ORIGINS: origin },
  'sources',
)
const vite = await createServer({
  root: join(top, 'web'),
  configFile: join(top, 'vite.config.ts'),
  // the interface's own folder api/ holds modules, which are not the server's
  server: { port, strictPort: true, proxy: { '^/api/(?!.*[.]ts)': `http://127.0.0.1:${port + 1}` } },
})
await vite.listen()
console.log(`Plain Cut, with hot reload: ${origin}`)
const end = async () => {
  await vite.close()
  await server.stop()
  await cluster.stop()
  process.exit(0)
}
process.on('SIGINT', () => void end())
process.on('SIGTERM', () => void end())
