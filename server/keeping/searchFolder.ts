import { readdir, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { LRUCache } from 'lru-cache'
import type { StoryFileHit, StoryFileSearch } from '../../contract/storyFiles'
import { Refusal } from '../problem'
import { openStoryFile } from './unpack'

/** Looks for words in story files where they lie: nothing of them is brought back. */

const MOST_HITS = 200
interface Line {
  tape: string
  text: string
  /** As it is compared. */
  plain: string
}
interface Read {
  slug: string
  made: string
  lines: Line[]
}
/** What was read of a file, as long as it is the same one. */
const known = new LRUCache<string, Read>({ max: 300 })

const plain = (text: string): string => text.normalize('NFKD').replace(/\p{M}/gu, '').toLocaleLowerCase('en')

export async function searchFolder(folder: string, typed: string): Promise<StoryFileSearch> {
  const names = await readdir(folder).catch(() => {
    throw new Refusal(422, 'Not there', 'There is no such folder on this machine, or it can’t be read.')
  })
  const words = plain(typed).split(/\s+/).filter(Boolean)
  const found: StoryFileSearch = { files: 0, unread: 0, hits: [] }
  for (const name of names.filter((one) => one.endsWith('.zip')).sort()) {
    const path = join(folder, name)
    const read = await readOnce(path).catch(() => null)
    if (!read) {
      found.unread++
      continue
    }
    found.files++
    const inFile = read.lines.filter((line) => words.every((word) => line.plain.includes(word)))
    const { slug, made } = read
    // a story whose name it is, though nobody says it
    const named = !inFile.length && words.every((word) => plain(slug).includes(word))
    const hits = named ? [{ tape: '', text: '' }] : inFile
    found.hits.push(...hits.map(({ tape, text }): StoryFileHit => ({ path, slug, made, tape, text })))
    if (found.hits.length >= MOST_HITS) break
  }
  return { ...found, hits: found.hits.slice(0, MOST_HITS) }
}

async function readOnce(path: string): Promise<Read> {
  const { size, mtimeMs } = await stat(path)
  const key = `${path} ${size} ${mtimeMs}`
  const before = known.get(key)
  if (before) return before
  // nothing is written: it needs no folder, and no room
  const opened = await openStoryFile(path, '', Infinity)
  try {
    const { slug, made, files } = opened.manifest
    const lines: Line[] = []
    for (const { path: name } of files.filter((file) => file.path.startsWith('words/'))) {
      const [tape, ...rest] = (await opened.text(name)).split('\n')
      lines.push(...rest.filter(Boolean).map((text): Line => ({ tape, text, plain: plain(text) })))
    }
    const read = { slug, made, lines }
    known.set(key, read)
    return read
  } finally {
    opened.close()
  }
}
