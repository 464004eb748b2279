import { openDB } from 'idb'
import type { Plan } from '../../core/render/plan'

/**
 * The sound of clips, kept in the browser's own storage: a board that is opened again has it at once, also when the
 * server is gone. Where the storage is full or forbidden nothing is kept, and clips come from the server alone.
 */

interface KeptSound {
  piece: string
  /** What it was rendered from: of another plan it is another sound. */
  plan: string
  channels: readonly Float32Array[]
  /** The day it was last wanted, in days since 1970. */
  day: number
}

const KEPT_DAYS = 30
const today = (): number => Math.floor(Date.now() / 86_400_000)

const store = openDB('plain-cut-clips', 1, {
  upgrade: (database) => void database.createObjectStore('sounds', { keyPath: 'piece' }).createIndex('day', 'day'),
})
store.catch(() => undefined)

/** The channels of a piece's plan, if they are kept. */
export async function keptSound(piece: string, plan: Plan): Promise<readonly Float32Array[] | null> {
  try {
    const database = await store
    const found = (await database.get('sounds', piece)) as KeptSound | undefined
    if (found?.plan !== JSON.stringify(plan)) return null
    if (found.day !== today()) await database.put('sounds', { ...found, day: today() })
    return found.channels
  } catch {
    return null
  }
}

/** Keeps the channels of a piece's plan instead of what was kept of that piece, and lets go of what nobody wanted for a month. */
export async function keepSound(piece: string, plan: Plan, channels: readonly Float32Array[]): Promise<void> {
  try {
    const database = await store
    const sound: KeptSound = { piece, plan: JSON.stringify(plan), channels, day: today() }
    await database.put('sounds', sound)
    const old = await database.getAllKeysFromIndex('sounds', 'day', IDBKeyRange.upperBound(today() - KEPT_DAYS))
    for (const key of old) await database.delete('sounds', key)
  } catch {
    // it is there in memory, and comes from the server the next time
  }
}
