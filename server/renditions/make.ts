import { closeSync, openSync, readSync, renameSync, writeFileSync } from 'node:fs'
import { Levels } from '../../core/hearing/levels'
import { PEAK_LEVELS } from '../../core/sound/peaks'
import { RATE, type Frames } from '../../core/time'
import { Growing } from '../intake/growing'
import { makeTone } from '../intake/roomTone'
import { MediaStore } from '../media/store'

export interface MakeRenditionOrder {
  media: string
  /** What it is to be called. */
  sound: string
  channels: readonly number[]
  frames: Frames
  /** The end of all names until all of it is there. */
  unfinished: string
  /** Its tape has no quiet: room tone is made of it as well. */
  tone: boolean
}

const BLOCK: Frames = 4 * RATE

const bytesOf = (some: Float32Array | Int16Array) => new Uint8Array(some.buffer, some.byteOffset, some.byteLength)

/** All files of a rendition, as they are called once they are there. */
export const filesOf = (store: MediaStore, sound: string, channels: readonly number[], tone: boolean): string[] =>
  channels.flatMap((channel) => [
    store.channel(sound, channel),
    ...PEAK_LEVELS.map((_, level) => store.peaks(sound, channel, level)),
    store.loudness(sound, channel),
    ...(tone ? [store.channel(`${sound}-tone`, channel)] : []),
  ])

/** What the thread does: makes peaks, loudness and room tone of a sound that was treated; all gets its name once it is whole. */
export function run({ media, sound, channels, frames, unfinished, tone }: MakeRenditionOrder): void {
  const store = new MediaStore(media)
  for (const channel of channels) {
    const treated = `${store.channel(sound, channel)}${unfinished}`
    const peaks = PEAK_LEVELS.map((_, level) => new Growing(`${store.peaks(sound, channel, level)}${unfinished}`))
    const levels = new Levels()
    const write = () => levels.peaks.take().forEach((bins, level) => peaks[level].add(bytesOf(bins)))
    const file = openSync(treated, 'r')
    for (let at = 0; at < frames; at += BLOCK) {
      const some = new Float32Array(Math.min(BLOCK, frames - at))
      const got = readSync(file, bytesOf(some), 0, some.byteLength, at * 4)
      if (got !== some.byteLength) throw new Error(`${got} of ${some.byteLength} bytes were there`)
      levels.add(some)
      write()
    }
    closeSync(file)
    levels.finish()
    write()
    for (const one of peaks) one.close()
    writeFileSync(`${store.loudness(sound, channel)}${unfinished}`, bytesOf(Float32Array.from(levels.powers)))
    if (tone) makeTone(treated, `${store.channel(`${sound}-tone`, channel)}${unfinished}`, channel)
  }
  for (const path of filesOf(store, sound, channels, tone)) renameSync(`${path}${unfinished}`, path)
}
