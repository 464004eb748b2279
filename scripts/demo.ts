import { requirePackages } from './machine'

/** Makes the demo's tapes again from scratch. */
requirePackages('ffmpeg', 'flite')
await import('../demo/make')
console.log('The demo’s tapes are made again: see demo/tapes and demo/truth.')
