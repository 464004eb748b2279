import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import { requirePackages } from './machine'

/** `npm run measure -- NAME`: prints one JSON object a line. */
const names = readdirSync(join(import.meta.dirname, '..', 'measure'))
  .filter((file) => file.startsWith('measure-'))
  .map((file) => file.slice(8, -3))
const name = process.argv[2]
if (!names.includes(name)) {
  console.error(`Say what to measure: npm run measure -- ${names.join(' | ')}`)
  process.exit(1)
}
requirePackages('postgresql', 'ffmpeg', 'chromium-headless-shell', 'pocketsphinx', 'pocketsphinx-en-us', 'mediainfo')
await import(`../measure/measure-${name}`)
