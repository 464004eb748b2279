import type { Frames } from '../time'

/** So many parts of a sound are told of. */
export const WAVE_PARTS = 480

/** Gathers the wave of a sound while it comes: the highest sample, 0 to 1, of each of equal parts of it. */
export class WaveTaker {
  readonly wave: number[]
  private at = 0
  constructor(
    private readonly length: Frames,
    parts = WAVE_PARTS,
  ) {
    this.wave = Array.from({ length: parts }, () => 0)
  }

  add(channels: readonly Float32Array[]): void {
    const { wave, length } = this
    const count = channels[0].length
    for (let i = 0; i < count; i++) {
      const part = Math.min(wave.length - 1, Math.floor(((this.at + i) * wave.length) / length))
      for (const channel of channels) {
        const height = Math.abs(channel[i])
        if (height > wave[part]) wave[part] = height
      }
    }
    this.at += count
  }
}
