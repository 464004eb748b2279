import type { Source } from '../../core/lineup/source'
import type { Frames } from '../../core/time'
import type { SoundFiles } from '../media/store'

/** What a thread must know of a tape to read it. */
export interface TapeSound {
  id: string
  channels: number
  frames: Frames
}

/** All channels of a tape as one sound, as it is heard in the middle. */
export function mixOf(files: SoundFiles, { id, channels, frames }: TapeSound): Source {
  if (channels === 1) return { frames, read: (from, to) => files.read(id, 0, from, to) }
  return {
    frames,
    read: (from, to) => {
      const sum = new Float32Array(to - from)
      for (let c = 0; c < channels; c++) {
        const sound = files.read(id, c, from, to)
        for (let i = 0; i < sum.length; i++) sum[i] += sound[i]
      }
      return sum
    },
  }
}
