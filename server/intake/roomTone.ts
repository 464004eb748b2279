import { closeSync, fstatSync, openSync, readSync, writeFileSync } from 'node:fs'
import { humOf, type Hum } from '../../core/hearing/hum'
import { FloorSpectrum } from '../../core/sound/floor'
import { RATE, type Frames, type Stretch } from '../../core/time'
import { soundFile } from './soundWriter'

/** Room tone that is made lasts so long. */
export const MADE_TONE: Frames = 10 * RATE
const LOOK = 2048
const LOOKS = 400
const HUM_FROM: Frames = 3 * RATE

function reading<T>(path: string, act: (read: (from: Frames, to: Frames) => Float32Array, frames: Frames) => T): T {
  const file = openSync(path, 'r')
  try {
    const read = (from: Frames, to: Frames) => {
      const samples = new Float32Array(to - from)
      const got = readSync(file, new Uint8Array(samples.buffer), 0, samples.byteLength, from * 4)
      return samples.subarray(0, got >> 2)
    }
    return act(read, Math.floor(fstatSync(file).size / 4))
  } finally {
    closeSync(file)
  }
}

/** For a channel without a quiet moment: tone from the spectrum of its noise floor, from one file into another. */
export function makeTone(sound: string, tone: string, channel: number): void {
  reading(sound, (read, frames) => {
    const floor = new FloorSpectrum()
    const hop = Math.max(LOOK, Math.floor(frames / LOOKS))
    for (let at = 0; at + LOOK <= frames; at += hop) floor.look(read(at, at + LOOK))
    writeFileSync(tone, new Uint8Array(floor.tone(MADE_TONE, channel + 1).buffer))
  })
}

/** Mains hum in the quiet of a tape, on whichever channel it is loudest. */
export function hearHum(folder: string, channels: number, quiet: readonly Stretch[]): Hum | null {
  let loudest: Hum | null = null
  for (let c = 0; c < channels; c++)
    reading(soundFile(folder, c), (read) => {
      const room = new Float32Array(HUM_FROM)
      let count = 0
      for (const { from, to } of quiet) {
        const some = read(from, Math.min(to, from + HUM_FROM - count))
        room.set(some, count)
        count += some.length
        if (count >= HUM_FROM) break
      }
      const hum = humOf(room.subarray(0, count))
      if (hum && (!loudest || hum.level > loudest.level)) loudest = hum
    })
  return loudest
}
