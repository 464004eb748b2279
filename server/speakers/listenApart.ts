import { parentPort } from 'node:worker_threads'
import { VoiceFeatures } from '../../core/speakers/features'
import { tellApart, type Turn } from '../../core/speakers/tellApart'
import { RATE, type Frames, type Stretch } from '../../core/time'
import { MediaStore, SoundFiles } from '../media/store'

export interface ListenApartOrder {
  media: string
  tape: string
  channel: number
  frames: Frames
  speech: Stretch[]
}

export interface ListenApartReport {
  turns: Turn[]
}

/** What the thread does: tells the voices on a channel apart. */
export function run({ media, tape, channel, frames, speech }: ListenApartOrder): void {
  const files = new SoundFiles(new MediaStore(media))
  const features = new VoiceFeatures()
  for (let at = 0; at < frames; at += RATE) features.add(files.read(tape, channel, at, Math.min(frames, at + RATE)))
  files.close()
  parentPort!.postMessage({ turns: tellApart(features.finish(), speech) } satisfies ListenApartReport)
}
