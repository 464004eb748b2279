import { existsSync, readFileSync, renameSync, statSync, writeFileSync } from 'node:fs'
import { threadId } from 'node:worker_threads'
import { BANDS, PATCH_STEP, looksFrom, LooksOf, type Looks } from '../../core/patch/sound'
import { RATE, type Frames } from '../../core/time'
import type { MediaStore, SoundFiles } from '../media/store'

/** Looks of one channel of a sound, in which patches are sought: made once, and kept beside its sound. For threads. */
export function looksOn(store: MediaStore, files: SoundFiles, sound: string, channel: number, frames: Frames): Looks {
  const path = store.looks(sound, channel)
  if (existsSync(path) && statSync(path).size >= Math.floor(frames / PATCH_STEP) * BANDS * 4) {
    const bytes = readFileSync(path)
    return looksFrom(new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length >> 2))
  }
  const making = new LooksOf()
  for (let at = 0; at < frames; at += RATE) making.add(files.read(sound, channel, at, Math.min(frames, at + RATE)))
  const looks = making.finish()
  const unfinished = `${path}.${process.pid}-${threadId}`
  writeFileSync(unfinished, looks.values)
  renameSync(unfinished, path)
  return looks
}
