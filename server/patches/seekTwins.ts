import { parentPort } from 'node:worker_threads'
import { twins, type FoundBy, type Twin } from '../../core/patch/twins'
import type { Word } from '../../core/tape/words'
import type { Frames, Stretch } from '../../core/time'
import { MediaStore, SoundFiles } from '../media/store'
import { looksOn } from './looks'
import { overlaps } from '../../core/stretches'

export interface SeekTwinsOrder {
  media: string
  sound: string
  channel: number
  frames: Frames
  spot: Stretch
  words: Word[]
  /** What was said off the record is not offered. */
  off: Stretch[]
  count: number
  by: FoundBy
}

/** What the thread does: seeks what may be laid over a spot. */
export function run({ media, sound: heard, channel, frames, spot, words, off, count, by }: SeekTwinsOrder): void {
  const store = new MediaStore(media)
  const files = new SoundFiles(store)
  const sound = (from: Frames, to: Frames) => files.read(heard, channel, from, Math.min(frames, to)).slice()
  const looks = looksOn(store, files, heard, channel, frames)
  const found = twins(
    spot,
    words,
    looks,
    ({ from, to }) => ({ sound: sound(from, to), start: from }),
    (stretch) => stretch.to <= frames && !off.some((one) => overlaps(one, stretch)),
    count,
    by,
  )
  files.close()
  parentPort!.postMessage(found satisfies Twin[])
}
