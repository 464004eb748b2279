import { PEAK_LEVELS, PER_BIN } from '../../core/sound/peaks'
import { getBytes } from '../api/client'

const BINS = 16_384
const MOST = 200

/** Peaks at hand for drawing, fetched by range for what is looked at; the oldest are let go. */
class PeakCache {
  private readonly chunks = new Map<string, Int16Array | null>()
  /** Columns come in order, so the chunk of the last one is mostly that of the next. */
  private last: { sound: string; channel: number; level: number; index: number; found: { peaks: Int16Array; first: number } } | null = null
  private readonly listeners = new Set<() => void>()

  /** Peaks that hold a bin, and the bin they begin with; null while they are on their way. */
  chunk(sound: string, channel: number, level: number, bin: number): { peaks: Int16Array; first: number } | null {
    const index = Math.floor(bin / BINS)
    const { last } = this
    if (last && last.index === index && last.level === level && last.channel === channel && last.sound === sound) return last.found
    const key = `${sound}/${channel}/${level}/${index}`
    const held = this.chunks.get(key)
    if (held === undefined) void this.fetch(key, sound, channel, level, index)
    if (!held) return null
    const found = { peaks: held, first: index * BINS }
    this.last = { sound, channel, level, index, found }
    return found
  }

  private async fetch(key: string, sound: string, channel: number, level: number, index: number): Promise<void> {
    this.chunks.set(key, null)
    try {
      const bytes = await getBytes(`/tapes/${sound}/peaks/${channel}/${level}?from=${index * BINS}&to=${(index + 1) * BINS}`)
      this.chunks.set(key, new Int16Array(bytes))
      for (const old of this.chunks.keys()) {
        if (this.chunks.size <= MOST) break
        this.chunks.delete(old)
      }
      this.listeners.forEach((listener) => listener())
    } catch {
      setTimeout(() => {
        this.chunks.delete(key)
        this.listeners.forEach((listener) => listener())
      }, 1000)
    }
  }

  /** Lowest, highest and mean square of frames, as factors, into `out`; false while not all is here. */
  range(sound: string, channel: number, level: number, from: number, to: number, out: Float64Array): boolean {
    const size = PEAK_LEVELS[level]
    const first = Math.max(0, Math.floor(from / size))
    const last = Math.max(first, Math.ceil(to / size) - 1)
    let low = 1
    let high = -1
    let squares = 0
    let count = 0
    for (let bin = first; bin <= last; ) {
      const chunk = this.chunk(sound, channel, level, bin)
      if (!chunk) return false
      const end = Math.min(last, chunk.first + BINS - 1)
      for (; bin <= end; bin++) {
        const i = (bin - chunk.first) * PER_BIN
        if (i >= chunk.peaks.length) break
        low = Math.min(low, chunk.peaks[i] / 32767)
        high = Math.max(high, chunk.peaks[i + 1] / 32767)
        squares += (chunk.peaks[i + 2] / 32767) ** 2
        count++
      }
      bin = end + 1
    }
    out[0] = count ? low : 0
    out[1] = count ? high : 0
    out[2] = count ? squares / count : 0
    return true
  }

  onChange(listener: () => void): () => void {
    this.listeners.add(listener)
    return () => void this.listeners.delete(listener)
  }
}

export const peakCache = new PeakCache()
