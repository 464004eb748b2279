import type { Finding } from '../core/hearing/findings'
import type { Effect } from '../core/mend/effects'
import type { WhatItDid } from '../core/mend/whatItDid'
import type { TapeFacts } from '../core/render/plan'
import type { Rendition, Side } from '../core/tape/tape'
import type { Origin } from '../core/sound/waveFile'
import type { Stretch } from '../core/time'

/** A tape's sound, as the server knows it. */
export interface TapeInfo {
  id: string
  name: string
  speaker: string
  role: string
  /** When it was recorded, as `2026-11-24`; empty where nobody knows. */
  day: string
  tags: string[]
  sides: Side[]
  /** What is spoken on it, as a language tag: `en`. */
  language: string
  state: 'arriving' | 'ready' | 'failed'
  /** 0 to 1, of its sound that is at hand. */
  progress: number
  /** Why it was not taken, and the tape that it is already, if so. */
  error: string
  twin: string | null
  channels: number
  /** What is there to be heard so far. */
  frames: number
  /** Of the file as it came, and as it is to be; `size` is 0 while nobody knows. */
  fileName: string
  bytes: number
  size: number
  /** All of the file is there. */
  complete: boolean
  sha256: string
  format: string
  findings: Finding[]
  origin: Origin
  added: string
  aside: boolean
  hasWords: boolean
  /** The document with its words. */
  transcript: string
  /** What was said off the record. */
  off: Stretch[]
  /** Room tone: found on the tape, or made from its noise floor because no stretch is quiet enough. */
  tone: { made: boolean; quiet: Stretch[] }
  renditions: RenditionInfo[]
}

/** A rendition of one of a tape's sides, and how far its making has come. */
export interface RenditionInfo extends Pick<Rendition, 'id' | 'name' | 'channels' | 'piece'> {
  state: 'waiting' | 'working' | 'ready' | 'failed'
  error: string
  /** How much of it is made, 0 to 1. */
  progress: number
  /** What it did; null until it is made. */
  did: WhatItDid | null
  /** What makes it sound other than it was, for drama. */
  effects: Effect[]
}

/** What the renderer must know of a tape. */
export const toFacts = ({ id, frames, sides, tone, renditions }: TapeInfo): TapeFacts => ({
  id,
  frames,
  sides,
  renditions: renditions.filter(({ state }) => state === 'ready').map((rendition) => rendition.id),
  tone: { sound: tone.made ? `${id}.tone` : id, quiet: tone.quiet },
})

/** Where a tape was used. */
export interface Use {
  piece: string
  slug: string
  story: string | null
  aside: boolean
  stretches: Stretch[]
  /** When it was pulled. */
  at: string
  /** Length of the words, and of the clip. */
  words: number
  length: number
}
