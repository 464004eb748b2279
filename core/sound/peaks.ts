import type { Frames } from '../time'

/**
 * Peaks for drawing: for each bin the lowest and the highest sample and the root mean square, as
 * 16-bit numbers (32767 is full scale), in levels of which each is eight times coarser.
 */
export const PEAK_LEVELS: readonly Frames[] = [64, 512, 4096, 32768]
const COARSER = 8
/** Numbers a bin: lowest, highest, root mean square. */
export const PER_BIN = 3

const toShort = (value: number): number => Math.max(-32767, Math.min(32767, Math.round(value * 32767)))

/** The coarsest level that still has at least `perPixel` / 2 frames a bin, or finer; index into PEAK_LEVELS. */
export function levelFor(framesPerPixel: number): number {
  let level = 0
  while (level + 1 < PEAK_LEVELS.length && PEAK_LEVELS[level + 1] * 2 <= framesPerPixel) level++
  return level
}

/** Takes samples as they come; gives finished levels at the end. */
export class PeakBuilder {
  private readonly levels = PEAK_LEVELS.map(() => new Growing())
  private low = Infinity
  private high = -Infinity
  private squares = 0
  private count = 0

  add(samples: Float32Array): void {
    let i = 0
    while (i < samples.length) {
      const end = Math.min(samples.length, i + PEAK_LEVELS[0] - this.count)
      this.count += end - i
      let { low, high, squares } = this
      for (; i < end; i++) {
        const sample = samples[i]
        if (sample < low) low = sample
        if (sample > high) high = sample
        squares += sample * sample
      }
      this.low = low
      this.high = high
      this.squares = squares
      if (this.count === PEAK_LEVELS[0]) this.closeBin()
    }
  }

  private closeBin(): void {
    this.levels[0].push(toShort(this.low), toShort(this.high), toShort(Math.sqrt(this.squares / this.count)))
    this.low = Infinity
    this.high = -Infinity
    this.squares = 0
    this.count = 0
  }

  /** All levels, finest first. */
  finish(): Int16Array[] {
    if (this.count) this.closeBin()
    for (let level = 1; level < this.levels.length; level++) coarsen(this.levels[level - 1].taken(), this.levels[level])
    return this.levels.map((level) => level.taken())
  }
}

function coarsen(fine: Int16Array, into: Growing): void {
  for (let start = 0; start < fine.length; start += COARSER * PER_BIN) {
    const end = Math.min(fine.length, start + COARSER * PER_BIN)
    let low = 32767
    let high = -32767
    let squares = 0
    for (let i = start; i < end; i += PER_BIN) {
      low = Math.min(low, fine[i])
      high = Math.max(high, fine[i + 1])
      squares += fine[i + 2] * fine[i + 2]
    }
    into.push(low, high, Math.round(Math.sqrt(squares / ((end - start) / PER_BIN))))
  }
}

class Growing {
  private data = new Int16Array(3 * 4096)
  private length = 0

  push(a: number, b: number, c: number): void {
    if (this.length + 3 > this.data.length) {
      const larger = new Int16Array(this.data.length * 2)
      larger.set(this.data)
      this.data = larger
    }
    this.data[this.length++] = a
    this.data[this.length++] = b
    this.data[this.length++] = c
  }

  taken = (): Int16Array => this.data.subarray(0, this.length)
}
