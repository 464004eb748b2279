import { mkdirSync, openSync, writeSync, closeSync, statSync } from 'node:fs'
import { dirname } from 'node:path'
import type { MendStep } from '../core/mend/chain'
import { RATE } from '../core/time'
import { MediaStore } from '../server/media/store'
import { treatAll } from '../server/renditions/treatAll'

/** An hour of a sound, said over and over, treated as a tape's side is; how long it takes, and how much memory that takes on. */
export async function hourOfMending(folder: string, sound: Float32Array, steps: MendStep[]): Promise<{ seconds: number; memory: number }> {
  const store = new MediaStore(folder)
  const path = store.channel('tape', 0)
  mkdirSync(dirname(path), { recursive: true })
  const frames = 3600 * RATE
  const file = openSync(path, 'w')
  for (let at = 0; at < frames; at += sound.length) {
    const some = sound.subarray(0, Math.min(sound.length, frames - at))
    writeSync(file, new Uint8Array(some.buffer, some.byteOffset, some.byteLength))
  }
  closeSync(file)
  let early = 0
  let most = 0
  const started = performance.now()
  const order = { media: folder, sound: 'tape.made', channels: [0], frames, treatment: { kind: 'chain' as const, steps }, tone: false }
  await treatAll(store, order, (share) => {
    const used = process.memoryUsage().rss / 2 ** 20
    if (share < 0.1) early = Math.max(early, used)
    else most = Math.max(most, used)
    return true
  })
  const seconds = (performance.now() - started) / 1000
  if (statSync(store.channel('tape.made', 0)).size !== frames * 4) throw new Error('not all of the hour is there')
  return { seconds, memory: most - early }
}
