import { closeSync, openSync, writeSync } from 'node:fs'
import { parentPort } from 'node:worker_threads'
import { GRID } from '../../core/mend/chain'
import { treated, type Treatment } from '../../core/mend/treatment'
import { Comparison, type WhatItDid } from '../../core/mend/whatItDid'
import { tapeOf } from '../../core/tape/renditions'
import type { Frames } from '../../core/time'
import { MediaStore, SoundFiles } from '../media/store'
import './network'

/** A part of a side's channels that one thread treats, while others treat the rest. */
export interface TreatOrder {
  media: string
  sound: string
  channels: readonly number[]
  /** Where each channel is written, each frame at its own place. */
  paths: readonly string[]
  from: Frames
  to: Frames
  frames: Frames
  treatment: Treatment
}

/** After each cell: how many frames it made, of one channel; at the end, what was done to all of the part. */
export type TreatReport = { made: Frames } | { did: WhatItDid }

/** What the thread does. */
export function run({ media, sound, channels, paths, from, to, frames, treatment }: TreatOrder): void {
  const files = new SoundFiles(new MediaStore(media))
  const counts = { clicks: 0, pops: 0, clipping: 0 }
  const comparison = new Comparison(treatment.kind === 'chain' ? treatment.steps : [])
  try {
    channels.forEach((channel, i) => {
      const file = openSync(paths[i], 'r+')
      const read = (a: Frames, b: Frames) => files.read(tapeOf(sound), channel, a, b)
      for (let at = from; at < to; at += GRID) {
        const end = Math.min(to, at + GRID)
        const some = treated(treatment, read, at, end, frames, (kind, count) => {
          if (kind in counts) counts[kind as keyof typeof counts] += count
        })
        const bytes = new Uint8Array(some.buffer, some.byteOffset, some.byteLength)
        for (let done = 0; done < bytes.length;) done += writeSync(file, bytes, done, bytes.length - done, at * 4 + done)
        comparison.add(read(at, end), some)
        parentPort?.postMessage({ made: end - at } satisfies TreatReport)
      }
      closeSync(file)
    })
    const did = { ...comparison.finish(), clicks: counts.clicks, pops: counts.pops, peaks: counts.clipping }
    parentPort?.postMessage({ did } satisfies TreatReport)
  } finally {
    files.close()
  }
}
