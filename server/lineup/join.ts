import { closeSync, openSync, writeSync } from 'node:fs'
import { parentPort } from 'node:worker_threads'
import { LOOK } from '../../core/hearing/levels'
import { clarity, hushes, sameVoice } from '../../core/lineup/turns'
import { recordingBytes, recordingHeader } from '../../core/sound/recording'
import { resampled } from '../../core/sound/resample'
import { RATE, type Frames, type Stretch } from '../../core/time'
import { MediaStore, SoundFiles } from '../media/store'

/** One channel of the tape that is made, and where it comes from. */
export interface JoinedChannel {
  tape: string
  channel: number
  /** Frame `f` of it lies at `offset + f * (1 + drift)` of the joined tape. */
  offset: number
  drift: number
  frames: Frames
  mixed: boolean
}

/** Writes several tapes as the channels of one file, in step, in a thread of its own. */
export interface JoinThreadOrder {
  /** For each channel what is heard on it: one source, or several one after the other. */
  channels: JoinedChannel[][]
  media: string
  path: string
  description: string
  /** When the first of them was recorded. */
  at: string
}

export interface HeardChannel {
  /** Where it gives way to its room so that every voice is heard once. */
  hush: Stretch[]
  /** How far its speech stands out from its room, in dB. */
  clarity: number
  /** Other channels that caught the same voice. */
  sameAs: number[]
}

export type JoinReport = { progress: number } | { heard: HeardChannel[] }

const BLOCK = 250 * LOOK

/** What one source gives from a frame of the joined tape on. */
function partOf(files: SoundFiles, { tape, channel, offset, drift }: JoinedChannel, at: Frames, count: Frames): Float32Array {
  const read = (from: Frames, to: Frames) => files.read(tape, channel, from, to)
  const whole = drift === 0 && Number.isInteger(offset)
  return whole ? read(at - offset, at - offset + count) : resampled(read, (at - offset) / (1 + drift), 1 / (1 + drift), count)
}

function summed(parts: readonly Float32Array[], count: Frames): Float32Array {
  const sum = new Float32Array(count)
  for (const part of parts) for (let i = 0; i < count; i++) sum[i] += part[i]
  return sum
}

const say = (report: JoinReport) => parentPort!.postMessage(report)

/** What the thread does. */
export function run({ channels, media, path, description, at: recordedAt }: JoinThreadOrder): void {
  const files = new SoundFiles(new MediaStore(media))
  const length = Math.max(...channels.flat().map(({ offset, drift, frames }) => Math.ceil(offset + frames * (1 + drift))))
  const file = openSync(path, 'w')
  writeSync(file, recordingHeader(channels.length, RATE, description, new Date(recordedAt)))
  const looks = channels.map(() => new Float32Array(Math.floor(length / LOOK)))
  let shown = 0
  for (let at = 0; at < length; at += BLOCK) {
    const count = Math.min(BLOCK, length - at)
    const block = channels.map((parts) => {
      const here = parts
        .filter(({ offset, drift, frames }) => at < offset + frames * (1 + drift) && at + count > offset)
        .map((part) => partOf(files, part, at, count))
      return here.length === 1 ? here[0] : summed(here, count)
    })
    writeSync(file, recordingBytes(block))
    block.forEach((sound, c) => {
      for (let i = 0; i + LOOK <= count; i += LOOK) {
        let power = 0
        for (let k = i; k < i + LOOK; k++) power += sound[k] * sound[k]
        looks[c][(at + i) / LOOK] = power / LOOK
      }
    })
    if (Date.now() - shown > 250) {
      shown = Date.now()
      say({ progress: at / length })
    }
  }
  closeSync(file)
  files.close()
  const turns = hushes(channels.map(([{ mixed }], c) => ({ looks: looks[c], mixed })))
  say({
    heard: looks.map((own, c) => ({
      hush: turns[c],
      clarity: clarity(own),
      sameAs: looks.flatMap((other, d) => (d !== c && !channels[c][0].mixed && !channels[d][0].mixed && sameVoice(own, other) ? [d] : [])),
    })),
  })
}
