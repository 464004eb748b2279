import { createHash } from 'node:crypto'
import { createReadStream, createWriteStream } from 'node:fs'
import { readdir, stat } from 'node:fs/promises'
import { Readable, Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import yazl from 'yazl'
import { FORMAT, MANIFEST, VERSION, type Manifest, type PackedFile } from '../../contract/storyFiles'

/** What goes into a story file: under which path, and what it is. */
export interface Part {
  path: string
  content: { file: string } | { text: string }
}

/** What is packed already is stored as it is. */
const PACKED = /\.(mp3|m4a|aac|ogg|opus|flac|mp2|zip|docx)$/i
/** Sound is packed fast: it gains little by more. */
const FAST = 1

/** The files of a folder that are kept: not what can be made again in a moment. */
export async function filesIn(folder: string, not: RegExp): Promise<string[]> {
  return (await readdir(folder)).filter((name) => !not.test(name)).sort()
}

/** Writes a zip of all parts, with a manifest of their hashes at its end. `moved` is told of bytes; rejects where it is called off. */
export async function pack(
  path: string,
  about: Pick<Manifest, 'story' | 'slug'>,
  parts: readonly Part[],
  moved: (bytes: number) => void,
  signal: AbortSignal,
): Promise<void> {
  const zip = new yazl.ZipFile()
  const files: PackedFile[] = []
  const made = new Date()
  for (const { path: name, content } of parts) {
    const options = { mtime: made, compressionLevel: PACKED.test(name) ? 0 : FAST }
    zip.addReadStreamLazy(name, options, (done) => {
      const source = 'file' in content ? createReadStream(content.file) : Readable.from([Buffer.from(content.text)])
      done(null, hashed(source, name, files, moved))
    })
  }
  // the last one: by then it is known what the others hold
  zip.addReadStreamLazy(MANIFEST, { mtime: made }, (done) => {
    const manifest: Manifest = { format: FORMAT, version: VERSION, made: made.toISOString(), ...about, files }
    done(null, Readable.from([Buffer.from(JSON.stringify(manifest, null, 1))]))
  })
  const broken = new Promise<never>((_done, fail) => zip.on('error', fail))
  zip.end()
  await Promise.race([pipeline(zip.outputStream, createWriteStream(path, { flush: true }), { signal }), broken])
}

function hashed(source: Readable, path: string, files: PackedFile[], moved: (bytes: number) => void): Readable {
  const hash = createHash('sha256')
  let bytes = 0
  const through = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      hash.update(chunk)
      bytes += chunk.length
      moved(chunk.length)
      done(null, chunk)
    },
    flush(done) {
      files.push({ path, bytes, sha256: hash.digest('hex') })
      done()
    },
  })
  source.on('error', (error) => through.destroy(error))
  return source.pipe(through)
}

export async function sizeOf(parts: readonly Part[]): Promise<number> {
  const sizes = await Promise.all(
    parts.map(async ({ content }) => ('file' in content ? (await stat(content.file)).size : content.text.length)),
  )
  return sizes.reduce((sum, size) => sum + size, 0)
}
