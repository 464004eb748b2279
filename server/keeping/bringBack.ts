import { readdir, rename, rm, statfs } from 'node:fs/promises'
import { join } from 'node:path'
import type { EntityManager } from 'typeorm'
import type { PackedTape } from '../../contract/storyFiles'
import type { Services } from '../services'
import { readPacked, restore, withOwnIds } from './restore'
import { openStoryFile, refused } from './unpack'

/** Which files of a story file are kept here, and which are only checked. */
export const KEPT_PATHS = /^(tapes\/[0-9a-f-]{36}\/(sound\/[a-z0-9.-]+|original[a-z0-9.]*)|sent\/[0-9a-f-]{36}\/[^/]+)$/
export const KNOWN_PATHS = /^(README\.txt|documents\.json|receipts\.json|(mix|words)\/[^/]+)$/

/**
 * Brings a story back out of a file that came from anywhere. `done` is told of it in the transaction that keeps it: of the
 * story's id, which is another where it is still here, and of its slug.
 */
export async function bringBack(
  services: Services,
  path: string,
  folder: string,
  note: (progress: number) => void,
  signal: AbortSignal,
  done: (manager: EntityManager, story: string, slug: string) => Promise<void>,
): Promise<void> {
  const { bavail, bsize } = await statfs(services.config.data)
  const opened = await openStoryFile(path, folder, bavail * bsize)
  try {
    const { files, slug, story } = opened.manifest
    const strange = files.find(({ path: name }) => !KEPT_PATHS.test(name) && !KNOWN_PATHS.test(name))
    if (strange) throw refused(`Nobody knows what “${strange.path}” in it is for.`)
    const inside = await readPacked(opened)
    if (inside.packed.story.id !== story) throw refused('Its manifest is of another story.')
    const whole = files.reduce((sum, { bytes }) => sum + bytes, 1)
    let read = 0
    const moved = (bytes: number) => {
      if (signal.aborted) throw signal.reason
      note(((read += bytes) / whole) * 0.98)
    }
    for (const file of files) {
      if (signal.aborted) throw signal.reason
      if (KEPT_PATHS.test(file.path)) await opened.extract(file.path, moved)
      else await opened.check(file.path, moved)
    }
    const { all, own } = await withOwnIds(services, inside)
    for (const tape of inside.packed.tapes) await asStored(folder, tape, own)
    // files lie under the ids that they came with
    const came = new Map(inside.packed.tapes.map(({ document }) => [own(document.id), document.id]))
    const receipts = new Map(inside.receipts.map((receipt) => [own(receipt.id), receipt]))
    const places = {
      tape: (id: string) => join(folder, 'tapes', came.get(id)!),
      sent: ({ id }: { id: string }, fileName: string) => join(folder, 'sent', receipts.get(id)!.id, fileName),
    }
    await restore(services, all, places, (manager) => done(manager, all.packed.story.id, slug))
  } finally {
    opened.close()
  }
}

/** Lays the files of a tape as the media store has them: its original beside its sound, renditions by the ids that they have here. */
async function asStored(folder: string, { document, original }: PackedTape, own: (text: string) => string): Promise<void> {
  const tape = join(folder, 'tapes', document.id)
  const sound = join(tape, 'sound')
  for (const name of await readdir(sound)) await rename(join(sound, name), join(tape, own(name)))
  await rm(sound, { recursive: true })
  if (original !== `tapes/${document.id}/original`) await rename(join(folder, original), join(tape, 'original'))
}
