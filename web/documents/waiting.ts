import { openDB, type IDBPDatabase } from 'idb'
import type { AnyStep, Kind } from '../../contract/documents'
import type { Entry } from '../../core/steps/history'

/** Acts that the server has not taken yet, in the browser's own storage: a crash loses none. */
export interface WaitingActs {
  /** Document and tab, so that two tabs never write over each other. */
  key: string
  document: string
  kind: Kind
  tab: string
  revision: number
  entries: Entry<AnyStep>[]
}

/** Whose hand it is: one browser, one person. */
export const author: string = (localStorage.author ??= crypto.randomUUID())
export const tab = crypto.randomUUID()

/** Held for as long as this tab lives: what a tab without a lock left behind is an orphan. */
const held = new Promise<void>((resolve) => {
  void navigator.locks.request(`tab-${tab}`, () => {
    resolve()
    return new Promise(() => undefined)
  })
})

const store: Promise<IDBPDatabase> = openDB('plain-cut', 1, {
  upgrade: (database) => void database.createObjectStore('waiting', { keyPath: 'key' }),
})

/** Stores the acts, or clears the place where none are left. Resolves once they are on disk. */
export async function keep(acts: Omit<WaitingActs, 'key' | 'tab'>): Promise<void> {
  await held
  const transaction = (await store).transaction('waiting', 'readwrite', { durability: 'strict' })
  const key = `${acts.document}/${tab}`
  if (acts.entries.length) await transaction.store.put({ ...acts, key, tab } satisfies WaitingActs)
  else await transaction.store.delete(key)
  await transaction.done
}

/** Takes over what tabs that are gone left waiting. */
export async function orphans(): Promise<WaitingActs[]> {
  await held
  const database = await store
  const all = (await database.getAll('waiting')) as WaitingActs[]
  const { held: locks = [] } = await navigator.locks.query()
  const alive = new Set(locks.map((lock) => lock.name))
  return all.filter((acts) => !alive.has(`tab-${acts.tab}`))
}

export const forget = async (key: string): Promise<void> => (await store).delete('waiting', key)
