import { readdir, rename, rm, statfs } from 'node:fs/promises'
import { join } from 'node:path'
import type { PackedTape } from '../../contract/storyFiles'
import type { Services } from '../services'
import { readPacked, restore, withOwnIds } from './restore'
import { openStoryFile, refused } from './unpack'

/** Which files of a story file are kept here, and which are only checked. */
export const KEPT_PATHS = /^(tapes\/[0-9a-f-]{36}\/(sound\/[a-z0-9.-]+|original[a-z0-9.]*)|sent\/[0-9a-f-]{36}\/[^/]+)$/
export const KNOWN_PATHS = /^(README\.txt|documents\.json|receipts\.json|(mix|words)\/[^/]+)$/

/** Brings a story back out of a file that came from anywhere; gives the story's id, which is another where it is still here. */
export async function bringBack(
  services: Services,
  path: string,
  folder: string,
  note: (progress: number) => void,
  signal: AbortSignal,
): Promise<{ story: string; slug: string }> {
  const { bavail, bsize } = await statfs(services.config.data)
  const opened = await openStoryFile(path, folder, bavail * bsize)
  try {
    const { files, slug, story } = opened.manifest
    const strange = files.find(({ path: name }) => !KEPT_PATHS.test(name) && !KNOWN_PATHS.test(name))
    if (strange) throw refused(`Nobody knows what “${strange.path}” in it is for.`)
    const read = await readPacked(opened)
    if (read.packed.story.id !== story) throw refused('Its manifest is of another story.')
    const whole = files.reduce((sum, { bytes }) => sum + bytes, 1)
    let done = 0
    const moved = (bytes: number) => {
      if (signal.aborted) throw signal.reason
      note(((done += bytes) / whole) * 0.98)
    }
    for (const file of files) {
      if (signal.aborted) throw signal.reason
      if (KEPT_PATHS.test(file.path)) await opened.extract(file.path, moved)
      else await opened.check(file.path, moved)
    }
    const { all, own } = await withOwnIds(services, read)
    for (const tape of read.packed.tapes) await asStored(folder, tape, own)
    // files lie under the ids that they came with
    const came = new Map(read.packed.tapes.map(({ document }) => [own(document.id), document.id]))
    const receipts = new Map(read.receipts.map((receipt) => [own(receipt.id), receipt]))
    await restore(services, all, {
      tape: (id) => join(folder, 'tapes', came.get(id)!),
      sent: ({ id }) => join(folder, 'sent', receipts.get(id)!.id, receipts.get(id)!.fileName),
    })
    return { story: all.packed.story.id, slug }
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
