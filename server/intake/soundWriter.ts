import { join } from 'node:path'
import { PEAK_LEVELS } from '../../core/sound/peaks'
import type { Frames } from '../../core/time'
import { Growing } from './growing'

export const soundFile = (folder: string, channel: number): string => join(folder, `sound-${channel}.f32`)

/** Writes a tape's sound as it comes, a channel a file. */
export class SoundWriter {
  frames: Frames = 0
  private readonly channels

  /** `count`: channels to be written; none where another program writes them. */
  constructor(folder: string, count: number) {
    this.channels = Array.from({ length: count }, (_, c) => new Growing(soundFile(folder, c)))
  }

  add(samples: readonly Float32Array[]): void {
    this.channels.forEach((file, c) => file.add(new Uint8Array(samples[c].buffer, samples[c].byteOffset, samples[c].byteLength)))
    this.frames += samples[0].length
  }

  /** The end of the sound: all of it is on disk. */
  finish(): void {
    for (const file of this.channels) file.close()
  }
}

/** Writes the peaks of a tape as they are finished, a level of a channel a file. */
export class PeakWriter {
  private readonly channels

  constructor(folder: string, count: number) {
    this.channels = Array.from({ length: count }, (_, c) =>
      PEAK_LEVELS.map((_, level) => new Growing(join(folder, `peaks-${c}-${level}.i16`))),
    )
  }

  /** Bins of each level of each channel. */
  add(bins: readonly (readonly Int16Array[])[]): void {
    bins.forEach((levels, c) =>
      levels.forEach((some, level) => this.channels[c][level].add(new Uint8Array(some.buffer, some.byteOffset, some.byteLength))),
    )
  }

  finish(): void {
    for (const file of this.channels.flat()) file.close()
  }
}
