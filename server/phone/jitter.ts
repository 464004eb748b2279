import type { Law } from '../../core/sound/g711'
import { SAMPLES } from '../../core/sound/g711'

/** Samples a second on the line. */
export const LINE_RATE = 8000
/** What comes later than this after its place is not waited for: 0.2 s. */
export const PATIENCE = 0.2 * LINE_RATE
/** What is lost is covered by what was heard last, dying away over 60 ms. */
const PITCH = 160
const DYING = 0.06 * LINE_RATE
/** A leap of the clock further than this is a new beginning and no gap. */
const LEAP = 30 * LINE_RATE

/**
 * One side of a call, put in order: packets come late, twice, crossed or not at all, and go out as one
 * stream of 16-bit samples in which every sample stands at its time. A gap is covered by a repeat of
 * the last moments that dies away (the idea of G.711, Appendix I).
 */
export class JitterBuffer {
  private start: number | null = null
  /** Samples that went out. */
  private out = 0
  private readonly waiting = new Map<number, Int16Array>()
  private newest = 0
  private recent = new Int16Array(PITCH)
  private gap = 0
  /** Samples that were covered, of all. */
  covered = 0

  /** Takes a packet's payload by its timestamp. */
  add(timestamp: number, payload: Uint8Array, law: Law): void {
    const samples = Int16Array.from(payload, (byte) => SAMPLES[law][byte])
    this.start ??= timestamp
    // the clock is 32 bits wide and may wrap
    let at = (timestamp - this.start) | 0
    if (Math.abs(at - this.newest) > LEAP) {
      this.start = (timestamp - this.newest) >>> 0
      at = this.newest
    }
    if (at < this.out || this.waiting.has(at)) return
    this.waiting.set(at, samples)
    this.newest = Math.max(this.newest, at + samples.length)
  }

  /**
   * What can go out by now: all that is there without a gap, and past gaps that were waited for long
   * enough. `upTo`: so many samples of the call have passed, so that a silent side keeps step.
   */
  take(upTo: number): Int16Array<ArrayBuffer> {
    const parts: Int16Array[] = []
    for (;;) {
      const next = this.waiting.get(this.out)
      if (next) {
        this.waiting.delete(this.out)
        this.emit(parts, next)
        this.gap = 0
        continue
      }
      const places = [...this.waiting.keys()].filter((at) => at > this.out)
      for (const at of this.waiting.keys()) if (at < this.out) this.waiting.delete(at)
      const following = places.length ? Math.min(...places) : Infinity
      const due = Math.max(this.newest, upTo) - PATIENCE
      const end = Math.min(following, Math.floor(due))
      if (end <= this.out) break
      const covered = this.cover(end - this.out)
      parts.push(covered)
      this.out += covered.length
    }
    const all = new Int16Array(parts.reduce((sum, part) => sum + part.length, 0))
    let at = 0
    for (const part of parts) {
      all.set(part, at)
      at += part.length
    }
    return all
  }

  /** All that is still to come, once nothing more will. */
  rest(): Int16Array<ArrayBuffer> {
    return this.take(this.newest + PATIENCE)
  }

  private emit(parts: Int16Array[], samples: Int16Array): void {
    parts.push(samples)
    this.out += samples.length
    if (samples.length >= PITCH) this.recent = samples.slice(-PITCH)
  }

  private cover(count: number): Int16Array {
    const { recent } = this
    const made = Int16Array.from({ length: count }, (_, i) => {
      const place = this.gap + i
      return place < DYING ? recent[place % PITCH] * (1 - place / DYING) : 0
    })
    this.gap += count
    this.covered += count
    return made
  }
}
