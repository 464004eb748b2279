import { randomUUID } from 'node:crypto'
import { closeSync, openSync, rmSync } from 'node:fs'
import { GRID } from '../../core/mend/chain'
import type { Treatment } from '../../core/mend/treatment'
import type { WhatItDid } from '../../core/mend/whatItDid'
import type { Frames } from '../../core/time'
import type { MediaStore } from '../media/store'
import { runThread } from '../thread'
import { filesOf, type MakeRenditionOrder } from './make'
import type { TreatOrder, TreatReport } from './treat'

export interface RenditionOrder {
  media: string
  /** What it is to be called. */
  sound: string
  channels: readonly number[]
  frames: Frames
  treatment: Treatment
  tone: boolean
}

/** So many threads treat a tape at once, each a part of it. */
const THREADS = 2

/**
 * Makes all files of a rendition, and says what was done; all are there, or none. `report` is told what share is made; where it gives
 * false, all stops and nothing is left: then this gives null.
 */
export async function treatAll(store: MediaStore, order: RenditionOrder, report: (share: number) => boolean): Promise<WhatItDid | null> {
  const { media, sound, channels, frames, treatment, tone } = order
  const unfinished = `.${process.pid}-${randomUUID()}`
  const paths = channels.map((channel) => `${store.channel(sound, channel)}${unfinished}`)
  for (const path of paths) closeSync(openSync(path, 'w'))
  const part = Math.ceil(frames / THREADS / GRID) * GRID
  const dids: { did: WhatItDid; frames: Frames }[] = []
  let made = 0
  const treat = (from: Frames, to: Frames) =>
    runThread<TreatReport>('treat', { media, sound, channels, paths, from, to, frames, treatment } satisfies TreatOrder, (message) => {
      if ('did' in message) dids.push({ did: message.did, frames: to - from })
      else made += message.made
      return report(made / (frames * channels.length))
    })
  try {
    const parts = Array.from({ length: Math.ceil(frames / part) }, (_, i) => treat(i * part, Math.min(frames, (i + 1) * part)))
    if ((await Promise.all(parts)).some((whole) => !whole)) return null
    await runThread('makeRendition', { media, sound, channels, frames, unfinished, tone } satisfies MakeRenditionOrder, () => undefined)
    return together(dids)
  } finally {
    for (const path of filesOf(store, sound, channels, tone)) rmSync(`${path}${unfinished}`, { force: true })
  }
}

type Figure = Exclude<keyof WhatItDid, 'chirp' | 'hum'>

/** What was done to all parts: counts add up, levels are those of the parts by their length. */
function together(parts: readonly { did: WhatItDid; frames: Frames }[]): WhatItDid {
  const all = parts.reduce((sum, { frames }) => sum + frames, 0)
  const total = (key: Figure) => parts.reduce((sum, { did }) => sum + did[key], 0)
  const mean = (key: Figure) => Math.round((10 * parts.reduce((sum, { did, frames }) => sum + did[key] * frames, 0)) / all) / 10
  // one that chirps is heard, however long the others are
  const chirp = Math.max(1, ...parts.map(({ did }) => did.chirp ?? 1))
  const humming = parts.filter(({ did }) => did.hum !== undefined)
  const hummed = humming.reduce((sum, { frames }) => sum + frames, 0)
  const hum = hummed ? { hum: humming.reduce((sum, { did, frames }) => sum + did.hum! * frames, 0) / hummed } : {}
  return { ...hum, room: mean('room'), voice: mean('voice'), clicks: total('clicks'), pops: total('pops'), peaks: total('peaks'), chirp }
}
