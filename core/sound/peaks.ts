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

/**
 * Takes bins of the finest level as they come, and hands out those of all levels as they are finished, so that peaks can
 * grow with a tape.
 */
export class PeakBuilder {
  private readonly levels = PEAK_LEVELS.map(() => new Level())

  /** The lowest and the highest sample of the next bin, and its mean square. */
  bin(low: number, high: number, power: number): void {
    this.push(0, toShort(low), toShort(high), toShort(Math.sqrt(power)))
  }

  private push(level: number, low: number, high: number, mean: number): void {
    if (this.levels[level].push(low, high, mean)) this.close(level)
  }

  private close(level: number): void {
    this.levels[level].close((low, high, mean) => level + 1 < this.levels.length && this.push(level + 1, low, high, mean))
  }

  /** The bins of each level that were finished since last asked, finest first. */
  take(): Int16Array[] {
    return this.levels.map((level) => level.take())
  }

  /** Closes the bins of coarser levels that were not full; nothing may come after. */
  finish(): void {
    for (let level = 0; level + 1 < this.levels.length; level++) this.close(level)
  }
}

/** One level: its finished bins, and what they sum up to for the next. */
class Level {
  private bins = new Int16Array(PER_BIN * 1024)
  private length = 0
  private low = 32767
  private high = -32767
  private squares = 0
  private count = 0

  /** True where so many have come that the next level's bin is finished. */
  push(low: number, high: number, mean: number): boolean {
    if (this.length === this.bins.length) {
      const more = new Int16Array(2 * this.length)
      more.set(this.bins)
      this.bins = more
    }
    const { bins, length } = this
    bins[length] = low
    bins[length + 1] = high
    bins[length + 2] = mean
    this.length = length + PER_BIN
    if (low < this.low) this.low = low
    if (high > this.high) this.high = high
    this.squares += mean * mean
    return ++this.count === COARSER
  }

  /** Hands what they sum up to on to the next level, if there is anything. */
  close(next: (low: number, high: number, mean: number) => void): void {
    if (!this.count) return
    const { low, high, squares, count } = this
    this.low = 32767
    this.high = -32767
    this.squares = this.count = 0
    next(low, high, Math.round(Math.sqrt(squares / count)))
  }

  take(): Int16Array {
    const taken = this.bins.slice(0, this.length)
    this.length = 0
    return taken
  }
}
