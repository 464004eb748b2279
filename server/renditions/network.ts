import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { networkFrom } from '../../core/mend/movingNoise'

/** Gives the program against moving noise to whoever treats sound in this thread. */
networkFrom(() => readFileSync(createRequire(import.meta.url).resolve('@jitsi/rnnoise-wasm/dist/rnnoise.wasm')))
