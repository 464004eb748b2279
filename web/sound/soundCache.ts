import { LRUCache } from 'lru-cache'

/** Sound at hand in the rendering worker: fetched by range, kept in chunks, the oldest let go. */

const CHUNK = 1 << 14
/** The end of a tape that still grows is asked for again so often at most. */
const AGAIN_MS = 300
/** A server that does not answer for so long does not answer. */
const PATIENCE_MS = 8000
const MOST_CHUNKS = 1500 // about 100 MB

export class SoundCache {
  private readonly chunks = new LRUCache<string, Float32Array>({ max: MOST_CHUNKS })
  /** When chunks came that fell short: the tape may have grown since. */
  private readonly short = new Map<string, number>()
  private readonly coming = new Map<string, Promise<void>>()
  private scratch = new Float32Array(1 << 12)

  private static key = (sound: string, channel: number, chunk: number) => `${sound}/${channel}/${chunk}`

  /** Sees to it that frames are at hand: null where they are, else a promise, which rejects where they cannot be had. */
  ensure(sound: string, channel: number, from: number, to: number): Promise<unknown> | null {
    const first = Math.max(0, Math.floor(from / CHUNK))
    const last = Math.floor((to - 1) / CHUNK)
    const waits: Promise<void>[] = []
    for (let chunk = first; chunk <= last; chunk++) {
      const key = SoundCache.key(sound, channel, chunk)
      const held = this.chunks.get(key)
      const needed = Math.min(CHUNK, to - chunk * CHUNK)
      if (held && (held.length >= needed || Date.now() - (this.short.get(key) ?? 0) < AGAIN_MS)) continue
      let coming = this.coming.get(key)
      if (!coming) {
        let end = chunk
        while (
          end < last &&
          end - chunk < 7 &&
          !this.chunks.has(SoundCache.key(sound, channel, end + 1)) &&
          !this.coming.has(SoundCache.key(sound, channel, end + 1))
        )
          end++
        coming = this.fetch(sound, channel, chunk, end + 1)
        for (let c = chunk; c <= end; c++) this.coming.set(SoundCache.key(sound, channel, c), coming)
      }
      waits.push(coming)
    }
    return waits.length ? Promise.all(waits) : null
  }

  /** Whether frames are at hand, to the last one. */
  has(sound: string, channel: number, from: number, to: number): boolean {
    for (let chunk = Math.max(0, Math.floor(from / CHUNK)); chunk * CHUNK < to; chunk++) {
      const held = this.chunks.get(SoundCache.key(sound, channel, chunk))
      if (!held || held.length < Math.min(CHUNK, to - chunk * CHUNK)) return false
    }
    return true
  }

  private async fetch(sound: string, channel: number, first: number, end: number): Promise<void> {
    const [id, rendition = 'sound'] = sound.split('.')
    try {
      const response = await fetch(`/api/tapes/${id}/sound/${rendition}/${channel}?from=${first * CHUNK}&to=${end * CHUNK}`, {
        priority: 'high',
        signal: AbortSignal.timeout(PATIENCE_MS),
      })
      if (!response.ok) throw new Error(`sound did not come: ${response.status}`)
      const samples = new Float32Array(await response.arrayBuffer())
      for (let chunk = first; chunk < end; chunk++) {
        const from = (chunk - first) * CHUNK
        const key = SoundCache.key(sound, channel, chunk)
        this.chunks.set(key, samples.subarray(Math.min(from, samples.length), Math.min(from + CHUNK, samples.length)))
        if (samples.length < from + CHUNK) this.short.set(key, Date.now())
        else this.short.delete(key)
      }
    } finally {
      for (let chunk = first; chunk < end; chunk++) this.coming.delete(SoundCache.key(sound, channel, chunk))
    }
  }

  /** For the renderer. What is not at hand is silent, so `ensure` comes first. */
  read = (sound: string, channel: number, from: number, to: number): Float32Array => {
    const chunk = Math.floor(from / CHUNK)
    if (from >= 0 && to <= (chunk + 1) * CHUNK) {
      const held = this.chunks.get(SoundCache.key(sound, channel, chunk))
      if (held && to - chunk * CHUNK <= held.length) return held.subarray(from - chunk * CHUNK, to - chunk * CHUNK)
    }
    if (this.scratch.length < to - from) this.scratch = new Float32Array(to - from)
    const out = this.scratch.subarray(0, to - from)
    out.fill(0)
    for (let at = Math.max(0, from); at < to;) {
      const index = Math.floor(at / CHUNK)
      const end = Math.min(to, (index + 1) * CHUNK)
      const held = this.chunks.get(SoundCache.key(sound, channel, index))
      if (held) out.set(held.subarray(at - index * CHUNK, Math.min(held.length, end - index * CHUNK)), at - from)
      at = end
    }
    return out
  }
}
