import program from '@jitsi/rnnoise-wasm/dist/rnnoise.wasm?inline'
import { networkFrom } from '../../core/mend/movingNoise'

/** Gives the program against moving noise to whoever mends sound in this worker; it comes within the script, as base64. */
networkFrom(() => Uint8Array.from(atob(program.slice(program.indexOf(',') + 1)), (letter) => letter.charCodeAt(0)))
