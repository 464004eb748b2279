import { createHash } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { mkdir } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { Transform, Writable, type Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { ValidationError } from 'yup'
import yauzl, { type Entry, type ZipFile } from 'yauzl'
import { FORMAT, MANIFEST, manifestSchema, VERSION, type Manifest } from '../../contract/storyFiles'
import { LARGEST } from '../intake/intake'
import { Refusal } from '../problem'

/**
 * Reads a story file that came from anywhere. Nothing in it is believed: each name is looked at, sizes and hashes are those
 * of the manifest or it is refused, and nothing is written anywhere but into the folder that is given.
 */

const MOST_FILES = 20_000
const MOST_TEXT = 64 * 2 ** 20

export const refused = (why: string): Refusal => new Refusal(422, 'No story file', `${why} Nothing of it was taken.`)

export interface Opened {
  manifest: Manifest
  /** Text of a file in it that is read whole, checked by its hash. */
  text: (path: string) => Promise<string>
  /** Writes a file of it into the folder, checked by its hash; gives where it lies. */
  extract: (path: string, moved: (bytes: number) => void) => Promise<string>
  /** Reads it to the end and keeps nothing of it: whether it is what the manifest says. */
  check: (path: string, moved: (bytes: number) => void) => Promise<void>
  close: () => void
}

/** Opens a story file, and refuses it in plain words where it is none, or is not what its manifest says. `room`: free bytes on the disk. */
export async function openStoryFile(path: string, folder: string, room: number): Promise<Opened> {
  const zip = await yauzl
    .openPromise(path, { lazyEntries: true, autoClose: false, strictFileNames: true, validateEntrySizes: true })
    .catch(() => Promise.reject(refused('It is not a zip file, or not a whole one.')))
  try {
    const entries = await entriesOf(zip)
    const manifest = await manifestIn(zip, entries)
    compare(manifest, entries, room)
    const known = new Map(manifest.files.map((file) => [file.path, file]))
    const checked = async (name: string, into: NodeJS.WritableStream, moved: (bytes: number) => void): Promise<void> => {
      const file = known.get(name)
      if (!file) throw refused(`“${name}” is missing in it.`)
      const hash = createHash('sha256')
      const through = new Transform({
        transform(chunk: Buffer, _encoding, done) {
          hash.update(chunk)
          moved(chunk.length)
          done(null, chunk)
        },
      })
      try {
        await pipeline(await contentOf(zip, entries.get(name)!), through, into)
      } catch {
        throw refused(`“${name}” in it is damaged.`)
      }
      if (hash.digest('hex') !== file.sha256) throw refused(`“${name}” in it is not what the manifest says: its hash is another.`)
    }
    return {
      manifest,
      async text(name) {
        if ((known.get(name)?.bytes ?? 0) > MOST_TEXT) throw refused(`“${name}” in it is too long.`)
        const chunks: Buffer[] = []
        const into = new Transform({
          transform(chunk: Buffer, _encoding, done) {
            chunks.push(chunk)
            done()
          },
        })
        into.resume()
        await checked(name, into, () => undefined)
        return Buffer.concat(chunks).toString('utf8')
      },
      async extract(name, moved) {
        const at = join(folder, name)
        await mkdir(dirname(at), { recursive: true })
        await checked(name, createWriteStream(at, { flags: 'wx' }), moved)
        return at
      },
      check: (name, moved) => checked(name, new Writable({ write: (_chunk, _encoding, done) => done() }), moved),
      close: () => zip.close(),
    }
  } catch (error) {
    zip.close()
    throw error
  }
}

/** In bytes: sound is as large as a tape may be, once it is brought to 32 bits; all else is text. */
const mostOf = (path: string): number => (/^(tapes\/[^/]+\/(original|sound\/)|mix\/|sent\/)/.test(path) ? 2 * LARGEST : MOST_TEXT)

const isLink = ({ externalFileAttributes }: Entry): boolean => ((externalFileAttributes >>> 16) & 0o170000) === 0o120000

async function entriesOf(zip: ZipFile): Promise<Map<string, Entry>> {
  const entries = new Map<string, Entry>()
  if (zip.entryCount > MOST_FILES) throw refused('It holds more files than a story has.')
  try {
    for await (const entry of zip.eachEntry()) {
      const { fileName } = entry
      if (fileName.endsWith('/')) continue
      if (entries.has(fileName)) throw refused(`“${fileName}” is in it twice.`)
      if (entry.isEncrypted()) throw refused('It is locked with a password.')
      if (isLink(entry)) throw refused(`“${fileName}” in it leads elsewhere.`)
      entries.set(fileName, entry)
    }
  } catch (error) {
    if (error instanceof Refusal) throw error
    const said = String((error as Error).message)
    throw refused(/path|fileName|characters/i.test(said) ? 'A name in it leads out of it.' : 'Its list of files is damaged.')
  }
  return entries
}

async function manifestIn(zip: ZipFile, entries: ReadonlyMap<string, Entry>): Promise<Manifest> {
  const entry = entries.get(MANIFEST)
  if (!entry) throw refused('It is a zip file, but no story file: it has no manifest.')
  if (entry.uncompressedSize > MOST_TEXT) throw refused('Its manifest is too long.')
  let manifest: Manifest
  try {
    const chunks: Buffer[] = []
    for await (const chunk of await contentOf(zip, entry)) chunks.push(chunk as Buffer)
    manifest = JSON.parse(Buffer.concat(chunks).toString('utf8')) as Manifest
  } catch {
    throw refused('Its manifest can’t be read.')
  }
  if (manifest?.format !== FORMAT) throw refused('It is a zip file, but no story file.')
  if (manifest.version > VERSION) throw refused('It was made by a newer Plain Cut than this one.')
  try {
    return (await manifestSchema.validate(manifest, { strict: true })) as Manifest
  } catch (error) {
    throw refused(`Its manifest makes no sense: ${(error as ValidationError).message}.`)
  }
}

function compare({ files }: Manifest, entries: ReadonlyMap<string, Entry>, room: number): void {
  let whole = 0
  const named = new Set([MANIFEST])
  for (const { path, bytes } of files) {
    const entry = entries.get(path)
    if (named.has(path)) throw refused(`Its manifest names “${path}” twice.`)
    named.add(path)
    if (!entry) throw refused(`“${path}” is missing in it.`)
    if (entry.uncompressedSize !== bytes) throw refused(`“${path}” in it is not as long as the manifest says.`)
    if (bytes > mostOf(path)) throw refused(`“${path}” in it is larger than such a file can be.`)
    whole += bytes
  }
  const stray = [...entries.keys()].find((path) => !named.has(path))
  if (stray) throw refused(`“${stray}” is in it, and not in its manifest.`)
  if (whole > room)
    throw new Refusal(
      507,
      'No room',
      `It needs ${(whole / 1e9).toFixed(1)} GB, and there are ${(room / 1e9).toFixed(1)} GB left. Nothing of it was taken.`,
    )
}

async function contentOf(zip: ZipFile, entry: Entry): Promise<Readable> {
  return zip.openReadStreamPromise(entry)
}
