import { openDB, type IDBPDatabase } from 'idb'

/** Files on their way in, kept in the browser's own storage until they are there: a closed lid or a crash loses none. */
export interface KeptFile {
  key: string
  file: File
  /** Where the upload goes on, and the tape it becomes, once it has begun. */
  url: string | null
  tape: string | null
  /** The story that it joins. */
  story?: string
}

const store: Promise<IDBPDatabase> = openDB('plain-cut-uploads', 1, {
  upgrade: (database) => {
    database.createObjectStore('files')
    database.createObjectStore('places')
  },
})

/** Resolves to false where the browser has no room for it: the upload goes on, but not past the end of this page. */
export const keepFile = async (kept: KeptFile): Promise<boolean> => {
  try {
    await keepPlace(kept)
    await (await store).put('files', kept.file, kept.key)
    return true
  } catch {
    return false
  }
}

export const keepPlace = async ({ key, url, tape, story }: KeptFile): Promise<void> =>
  void (await (await store).put('places', { url, tape, story }, key))

export async function letGo(key: string): Promise<void> {
  const database = await store
  await database.delete('files', key)
  await database.delete('places', key)
}

/** Does something for a file that no other tab is at work on; what is left of tabs that are gone comes this way too. */
export const alone = (key: string, act: () => Promise<void>): Promise<void> =>
  navigator.locks.request(`upload-${key}`, { ifAvailable: true }, async (lock) => {
    if (lock) await act()
  })

export async function leftBehind(): Promise<KeptFile[]> {
  const database = await store
  const keys = (await database.getAllKeys('files')) as string[]
  return Promise.all(
    keys.map(async (key) => {
      const place = (await database.get('places', key)) as Pick<KeptFile, 'url' | 'tape' | 'story'> | undefined
      return {
        key,
        file: (await database.get('files', key)) as File,
        url: place?.url ?? null,
        tape: place?.tape ?? null,
        story: place?.story,
      }
    }),
  )
}
