import { renameSync, rmSync } from 'node:fs'
import { threadId } from 'node:worker_threads'
import { Levels } from '../../core/hearing/levels'
import { GRID } from '../../core/mend/chain'
import { treated, type Treatment } from '../../core/mend/treatment'
import { PEAK_LEVELS } from '../../core/sound/peaks'
import { tapeOf } from '../../core/tape/renditions'
import type { Frames } from '../../core/time'
import { Growing } from '../intake/growing'
import { makeTone } from '../intake/roomTone'
import { MediaStore, SoundFiles } from '../media/store'

export interface MakeRenditionOrder {
  media: string
  /** What it is to be called. */
  sound: string
  channels: readonly number[]
  frames: Frames
  treatment: Treatment
  /** Its tape has no quiet: room tone is made of it as well. */
  tone: boolean
}

/** What remembers starts anew so often: blocks of as many frames are made once each. */
const BLOCK: Frames = GRID

const bytesOf = (some: Float32Array | Int16Array) => new Uint8Array(some.buffer, some.byteOffset, some.byteLength)

/** What the thread does: treats the channels of a side, and writes what comes of it, with its peaks, beside what was recorded. */
export function run({ media, sound, channels, frames, treatment, tone }: MakeRenditionOrder): void {
  const store = new MediaStore(media)
  const files = new SoundFiles(store)
  const made: string[] = []
  // under a name of its own until all of it is there
  const unfinished = (path: string): string => {
    made.push(path)
    return `${path}.${process.pid}-${threadId}`
  }
  try {
    for (const channel of channels) {
      const out = new Growing(unfinished(store.channel(sound, channel)))
      const peaks = PEAK_LEVELS.map((_, level) => new Growing(unfinished(store.peaks(sound, channel, level))))
      const levels = new Levels()
      const write = () => levels.peaks.take().forEach((bins, level) => peaks[level].add(bytesOf(bins)))
      for (let at = 0; at < frames; at += BLOCK) {
        const read = (from: Frames, to: Frames) => files.read(tapeOf(sound), channel, from, to)
        const some = treated(treatment, read, at, Math.min(frames, at + BLOCK), frames)
        out.add(bytesOf(some))
        levels.add(some)
        write()
      }
      levels.finish()
      write()
      for (const file of [out, ...peaks]) file.close()
      if (tone)
        makeTone(
          `${store.channel(sound, channel)}.${process.pid}-${threadId}`,
          unfinished(store.channel(`${sound}-tone`, channel)),
          channel,
        )
    }
    for (const path of made) renameSync(`${path}.${process.pid}-${threadId}`, path)
  } catch (error) {
    for (const path of made) rmSync(`${path}.${process.pid}-${threadId}`, { force: true })
    throw error
  } finally {
    files.close()
  }
}
