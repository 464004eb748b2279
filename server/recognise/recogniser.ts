import type { HeardWord } from '../../core/recognise/heard'

/** A stretch of one voice's sound, ready to be recognised. */
export interface SoundChunk {
  /** A file of 16-bit samples, little-endian, one channel, 16 kHz, without a header. */
  path: string
  seconds: number
}

/** Whoever hears words in sound. What is known of its times and its trust in them goes along. */
export interface Recogniser {
  /** As it is told to people. */
  name: string
  /** Languages that it knows, as `en`. */
  languages: readonly string[]
  /** How many chunks it is given at once. */
  atOnce: number
  /** The words of a chunk, in order. Rejects where it cannot do its work, or when `signal` aborts it. */
  hear(chunk: SoundChunk, signal: AbortSignal): Promise<HeardWord[]>
}
