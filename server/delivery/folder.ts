import { createReadStream, createWriteStream } from 'node:fs'
import { link, open, rename, rm, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { hashOf } from './hashing'
import type { Place } from './place'
import { existsAlready, Trouble } from './trouble'

/** A folder that this machine reaches: a disk, a share that is mounted. It must be there; a drive that is away is not made up. */
export async function openFolder(folder: string): Promise<Place> {
  const found = await stat(folder).catch(() => null)
  if (!found) throw new Trouble('again', 'The folder is not there. Is its drive connected?')
  if (!found.isDirectory()) throw new Trouble('refused', 'That is a file, not a folder.')
  const at = (name: string) => join(folder, name)
  return {
    size: async (name) => (await stat(at(name)).catch(nothing))?.size ?? null,
    hash: (name, moved) => plainly(() => hashOf(createReadStream(at(name)), moved)),
    write: (name, content) =>
      plainly(async () => {
        await pipeline(content, createWriteStream(at(name), { flush: true }))
      }),
    rename: (from, to, replaces) =>
      plainly(async () => {
        if (replaces) await rename(at(from), at(to))
        else await renameAnew(at(from), at(to))
        await keepNames(folder)
      }),
    remove: (name) => plainly(() => rm(at(name), { force: true })),
    close: async () => undefined,
  }
}

/** A second name, then without the first: of two files that want one name, the second fails. */
async function renameAnew(from: string, to: string): Promise<void> {
  try {
    await link(from, to)
  } catch (error) {
    const { code } = error as { code?: string }
    if (code === 'EEXIST') throw existsAlready()
    // a disk without second names
    if (code !== 'EPERM' && code !== 'ENOTSUP' && code !== 'ENOSYS') throw error
    if (await stat(to).catch(nothing)) throw existsAlready()
    return rename(from, to)
  }
  await rm(from)
}

/** Has the disk keep a name that it was given; a share may not be able to, and keeps it in its own way. */
async function keepNames(folder: string): Promise<void> {
  const names = await open(folder).catch(() => null)
  await names?.sync().catch(() => undefined)
  await names?.close()
}

const nothing = (error: unknown): null => {
  if ((error as { code?: string }).code === 'ENOENT') return null
  throw plain(error)
}

function plain(error: unknown): Trouble {
  if (error instanceof Trouble) return error
  const { code } = error as { code?: string }
  if (code === 'ENOSPC' || code === 'EDQUOT') return new Trouble('again', 'It is full.')
  if (code === 'EACCES' || code === 'EPERM' || code === 'EROFS') return new Trouble('refused', 'The folder can’t be written to.')
  if (code === 'ENAMETOOLONG') return new Trouble('refused', 'The name of the file is too long there.')
  return new Trouble('again', 'The folder is away.')
}

async function plainly<T>(act: () => Promise<T>): Promise<T> {
  try {
    return await act()
  } catch (error) {
    throw plain(error)
  }
}
