import { LRUCache } from 'lru-cache'
import { PEAK_LEVELS, PER_BIN } from '../../core/sound/peaks'
import { getBytes } from '../api/client'

const BINS = 16_384
const MOST = 200
/** The end of a tape that still grows is asked for again so often at most. */
const AGAIN_MS = 400
/** Sound goes first: peaks never take all of the browser's ways to the server. */
const AT_ONCE = 3

/** Peaks at hand for drawing, fetched by range for what is looked at; the oldest are let go. */
class PeakCache {
  private readonly chunks = new LRUCache<string, Int16Array>({ max: MOST })
  /** What is asked for, or on its way. */
  private readonly asked = new Set<string>()
  /** Columns come in order, so the chunk of the last one is mostly that of the next. */
  private last: { sound: string; channel: number; level: number; index: number; found: { peaks: Int16Array; first: number } } | null = null
  private readonly listeners = new Set<() => void>()
  /** What was asked for and has not gone out, the newest last. */
  private wanted: { key: string; path: string }[] = []
  private coming = 0
  /** When chunks that fell short were asked for: the tape may have grown since. */
  private readonly short = new Map<string, number>()

  /** Peaks that hold a bin, and the bin they begin with; null while they are on their way. */
  chunk(sound: string, channel: number, level: number, bin: number): { peaks: Int16Array; first: number } | null {
    const index = Math.floor(bin / BINS)
    const { last } = this
    if (
      last &&
      last.index === index &&
      last.found.peaks.length > (bin - index * BINS) * PER_BIN &&
      last.level === level &&
      last.channel === channel &&
      last.sound === sound
    )
      return last.found
    const key = `${sound}/${channel}/${level}/${index}`
    const held = this.chunks.get(key)
    const fell = held && held.length < BINS * PER_BIN && bin - index * BINS >= held.length / PER_BIN
    const again = fell && Date.now() - (this.short.get(key) ?? 0) > AGAIN_MS
    if ((!held || again) && !this.asked.has(key)) {
      this.asked.add(key)
      this.short.set(key, Date.now())
      const [id, rendition = 'sound'] = sound.split('.')
      this.wanted.push({ key, path: `/tapes/${id}/peaks/${rendition}/${channel}/${level}?from=${index * BINS}&to=${(index + 1) * BINS}` })
      this.goOn()
    }
    if (!held) return null
    const found = { peaks: held, first: index * BINS }
    this.last = { sound, channel, level, index, found }
    return found
  }

  /** The newest first; what a glance has passed by is asked for again only where it is still looked at. */
  private goOn(): void {
    while (this.coming < AT_ONCE && this.wanted.length) {
      const { key, path } = this.wanted.pop()!
      void this.fetch(key, path)
    }
  }

  private async fetch(key: string, path: string): Promise<void> {
    this.coming++
    try {
      this.chunks.set(key, new Int16Array(await getBytes(path)))
    } catch {
      await new Promise((done) => setTimeout(done, 1000))
    }
    this.asked.delete(key)
    this.coming--
    for (const passed of this.wanted) this.asked.delete(passed.key)
    this.wanted = []
    this.listeners.forEach((listener) => listener())
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
    for (let bin = first; bin <= last;) {
      const chunk = this.chunk(sound, channel, level, bin)
      if (!chunk) return false
      if (chunk.peaks.length <= (bin - chunk.first) * PER_BIN) break // not there yet
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
