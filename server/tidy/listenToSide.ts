import { parentPort } from 'node:worker_threads'
import { SpotListener, VoiceListener, type HeardSpots, type HeardVoices } from '../../core/tidy/listen/side'
import { RATE, type Frames } from '../../core/time'
import { MediaStore, SoundFiles } from '../media/store'

export interface ListenToSideOrder {
  media: string
  tape: string
  /** Of the side: one, or a pair, of which the mean is listened to. */
  channels: readonly number[]
  frames: Frames
  /** What for. */
  to: keyof typeof LISTENERS
}

const LISTENERS = { voices: VoiceListener, spots: SpotListener }

export type ListenToSideReport = { share: number } | { heard: HeardVoices | HeardSpots }

/** How often it is told how far it is: so much of the tape at a time. */
const TOLD: Frames = 20 * RATE

/** What the thread does: listens to one side of a tape from its start to its end. */
export function run({ media, tape, channels, frames, to: what }: ListenToSideOrder): void {
  const files = new SoundFiles(new MediaStore(media))
  const listener = new LISTENERS[what]()
  const say = (report: ListenToSideReport) => parentPort!.postMessage(report)
  for (let at = 0; at < frames; at += RATE) {
    const to = Math.min(frames, at + RATE)
    const mean = files.read(tape, channels[0], at, to).slice()
    for (const channel of channels.slice(1)) {
      const other = files.read(tape, channel, at, to)
      for (let i = 0; i < mean.length; i++) mean[i] = (mean[i] + other[i]) / 2
    }
    listener.add(mean)
    if (at % TOLD === 0) say({ share: at / frames })
  }
  files.close()
  say({ heard: listener.finish() })
}
