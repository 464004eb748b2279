import { requirePackages } from './machine'

/** Makes the demo's tapes again from scratch. */
requirePackages('ffmpeg', 'flite', 'pocketsphinx', 'pocketsphinx-en-us')
await import('../demo/make')
await import('../demo/hear')
console.log('The demo’s tapes are made again: see demo/tapes, demo/truth and demo/heard.')
