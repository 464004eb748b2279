import type { Frames } from '../../core/time'
import { MediaStore, SoundFiles } from '../media/store'
import { looksOn } from './looks'

export interface MakeLooksOrder {
  media: string
  tape: string
  channels: number
  frames: Frames
}

/** What the thread does: makes the looks of all channels of a tape. */
export function run({ media, tape, channels, frames }: MakeLooksOrder): void {
  const store = new MediaStore(media)
  const files = new SoundFiles(store)
  for (let channel = 0; channel < channels; channel++) looksOn(store, files, tape, channel, frames)
  files.close()
}
