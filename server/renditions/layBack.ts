import { closeSync, fstatSync, openSync, readSync, writeSync } from 'node:fs'
import { parentPort } from 'node:worker_threads'
import { cameBack, type CameBack } from '../../core/lineup/outAndBack'
import { Comparison, type WhatItDid } from '../../core/mend/whatItDid'
import { RATE, type Frames, type Stretch } from '../../core/time'
import { MediaStore, SoundFiles } from '../media/store'

/** A side that was treated in another program, channel by channel, to be laid where the side lies. */
export interface LayBackOrder {
  media: string
  tape: string
  channels: readonly number[]
  frames: Frames
  /** What did not go out: it stays as recorded. */
  off: readonly Stretch[]
  /** What came back, at 48 kHz in floats, a file a channel. */
  came: readonly string[]
  /** Where each channel is written, as long as the tape. */
  paths: readonly string[]
}

export type LayBackReport = CameBack | { did: WhatItDid }

const BLOCK: Frames = 4 * RATE

/** What the thread does: compares, and where it fits, writes it frame for frame beside what was recorded. */
export function run({ media, tape, channels, frames, off, came, paths }: LayBackOrder): void {
  const files = new SoundFiles(new MediaStore(media))
  const open = came.map((path) => openSync(path, 'r'))
  try {
    // the first channel tells for all: they were one file
    const length = fstatSync(open[0]).size / 4
    const fit = cameBack(
      { frames, read: (from, to) => files.read(tape, channels[0], from, to) },
      { frames: length, read: (from, to) => framesOf(open[0], from, to) },
    )
    parentPort?.postMessage(fit satisfies LayBackReport)
    if (!fit.fits) return
    const comparison = new Comparison()
    channels.forEach((channel, i) => {
      const out = openSync(paths[i], 'w')
      for (let at = 0; at < frames; at += BLOCK) {
        const end = Math.min(frames, at + BLOCK)
        const recorded = files.read(tape, channel, at, end)
        const some = framesOf(open[i], at + fit.late, end + fit.late)
        for (const { from, to } of off)
          if (from < end && to > at) some.set(recorded.subarray(Math.max(0, from - at), to - at), Math.max(0, from - at))
        writeSync(out, new Uint8Array(some.buffer, some.byteOffset, some.byteLength))
        comparison.add(recorded, some)
      }
      closeSync(out)
    })
    const did = { ...comparison.finish(), clicks: 0, pops: 0, peaks: 0 }
    parentPort?.postMessage({ did } satisfies LayBackReport)
  } finally {
    for (const file of open) closeSync(file)
    files.close()
  }
}

/** Frames `[from, to)` of a file; silence where it has none. */
function framesOf(file: number, from: Frames, to: Frames): Float32Array {
  const out = new Float32Array(to - from)
  const first = Math.max(0, -from)
  if (first < out.length)
    readSync(file, new Uint8Array(out.buffer, first * 4, (out.length - first) * 4), 0, (out.length - first) * 4, (from + first) * 4)
  return out
}
