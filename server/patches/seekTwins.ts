import { existsSync, readFileSync, renameSync, statSync, writeFileSync } from 'node:fs'
import { parentPort, threadId } from 'node:worker_threads'
import { BANDS, HOP, LooksOf, type Looks } from '../../core/patch/sound'
import { twins, type Twin } from '../../core/patch/twins'
import type { Word } from '../../core/tape/words'
import { overlaps, RATE, type Frames, type Stretch } from '../../core/time'
import { MediaStore, SoundFiles } from '../media/store'

export interface SeekTwinsOrder {
  media: string
  tape: string
  channel: number
  frames: Frames
  spot: Stretch
  words: Word[]
  /** What was said off the record is not offered. */
  off: Stretch[]
  count: number
}

/** What the thread does: seeks what may be laid over a spot. */
export function run({ media, tape, channel, frames, spot, words, off, count }: SeekTwinsOrder): void {
  const store = new MediaStore(media)
  const files = new SoundFiles(store)
  const sound = (from: Frames, to: Frames) => files.read(tape, channel, from, Math.min(frames, to)).slice()
  const looks = kept(store.looks(tape, channel), Math.floor(frames / HOP), () => {
    const made = new LooksOf()
    for (let at = 0; at < frames; at += RATE) made.add(sound(at, at + RATE))
    return made.finish()
  })
  const found = twins(spot, words, looks, ({ from, to }) => ({ sound: sound(from, to), start: from }), (stretch) => stretch.to <= frames && !off.some((one) => overlaps(one, stretch)), count)
  files.close()
  parentPort!.postMessage(found satisfies Twin[])
}

/** Looks of a whole tape are made once, and lie beside it. */
function kept(path: string, least: number, make: () => Looks): Looks {
  if (existsSync(path) && statSync(path).size >= least * BANDS * 4) {
    const bytes = readFileSync(path)
    return { count: Math.floor(bytes.length / 4 / BANDS), values: new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length >> 2) }
  }
  const looks = make()
  const making = `${path}.${process.pid}-${threadId}`
  writeFileSync(making, looks.values)
  renameSync(making, path)
  return looks
}
