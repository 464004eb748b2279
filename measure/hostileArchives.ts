import { createHash } from 'node:crypto'
import yauzl from 'yauzl'
import yazl from 'yazl'
import { MANIFEST, type Manifest } from '../contract/storyFiles'

/** Story files that are none, or that mean harm, each made of one that is whole. */

type Files = Map<string, Buffer>

export async function filesOf(archive: Buffer): Promise<Files> {
  const files: Files = new Map()
  const zip = await yauzl.fromBufferPromise(archive, { lazyEntries: true })
  for await (const entry of zip.eachEntry()) {
    const chunks: Buffer[] = []
    for await (const chunk of await zip.openReadStreamPromise(entry)) chunks.push(chunk as Buffer)
    files.set(entry.fileName, Buffer.concat(chunks))
  }
  return files
}

async function zipOf(files: readonly (readonly [string, Buffer])[], modes: Record<string, number> = {}): Promise<Buffer> {
  const zip = new yazl.ZipFile()
  for (const [name, content] of files) zip.addBuffer(content, name, name in modes ? { mode: modes[name] } : {})
  zip.end()
  const chunks: Buffer[] = []
  for await (const chunk of zip.outputStream) chunks.push(chunk as Buffer)
  return Buffer.concat(chunks)
}

const sha = (content: Buffer): string => createHash('sha256').update(content).digest('hex')

/** With a manifest that says what is so. */
function honest(files: Files): [string, Buffer][] {
  const manifest = JSON.parse(files.get(MANIFEST)!.toString()) as Manifest
  const rest = [...files].filter(([name]) => name !== MANIFEST)
  manifest.files = rest.map(([path, content]) => ({ path, bytes: content.length, sha256: sha(content) }))
  return [...rest, [MANIFEST, Buffer.from(JSON.stringify(manifest))]]
}

const withFile = (files: Files, name: string, content: Buffer): Files => new Map(files).set(name, content)
function without(files: Files, name: string): Files {
  const rest = new Map(files)
  rest.delete(name)
  return rest
}

/** One name for another of the same length, wherever it stands: no packer writes such names. */
function renamed(archive: Buffer, from: string, to: string): Buffer {
  const copy = Buffer.from(archive)
  for (let at = copy.indexOf(from); at >= 0; at = copy.indexOf(from, at + 1)) copy.write(to, at)
  return copy
}

/** The flag of an entry that it is locked, in both places where it stands. */
function locked(archive: Buffer): Buffer {
  const copy = Buffer.from(archive)
  const central = copy.indexOf(Buffer.from([0x50, 0x4b, 1, 2]))
  copy.writeUInt16LE(copy.readUInt16LE(central + 8) | 1, central + 8)
  copy.writeUInt16LE(copy.readUInt16LE(6) | 1, 6)
  return copy
}

/** Each with a name, and what it is refused by must be about. */
export async function hostileArchives(archive: Buffer): Promise<[name: string, content: Buffer, about: RegExp][]> {
  const files = await filesOf(archive)
  const sound = [...files.keys()].find((name) => name.endsWith('/sound/sound-0.f32'))!
  const documents = JSON.parse(files.get('documents.json')!.toString()) as { pieces: { body: { spans: { tape: string; to: number }[] } }[] }
  const changed = (change: (all: typeof documents) => void): Files => {
    const copy = structuredClone(documents)
    change(copy)
    return withFile(files, 'documents.json', Buffer.from(JSON.stringify(copy)))
  }
  const manifest = (change: object): [string, Buffer][] =>
    honest(files).map(([name, content]) =>
      name === MANIFEST
        ? [name, Buffer.from(JSON.stringify({ ...(JSON.parse(content.toString()) as Manifest), ...change }))]
        : [name, content],
    )
  const damaged = Buffer.from(files.get(sound)!)
  damaged[damaged.length >> 1] ^= 1
  const stray = await zipOf([...files, ['zz/evil.txt', Buffer.from('out of it')]])
  return [
    ['no zip at all', Buffer.from('RIFF and so on, no zip at all'.repeat(100)), /not a zip file/],
    ['cut short', archive.subarray(0, Math.floor(archive.length * 0.7)), /not a whole one/],
    ['a name that leads out of it', renamed(stray, 'zz/evil.txt', '../evil.txt'), /leads out of it/],
    ['a name from the top of the disk', renamed(stray, 'zz/evil.txt', '/tmp/evil.tx'.slice(0, 11)), /leads out of it/],
    ['a link', await zipOf([...files], { [sound]: 0o120777 }), /leads elsewhere/],
    ['another hash', await zipOf([...withFile(files, sound, damaged)]), /hash is another/],
    ['a file that is missing', await zipOf([...without(files, sound)]), /missing/],
    ['a tape without its sound', await zipOf(honest(without(files, sound))), /missing/],
    ['a file too many', stray, /not in its manifest/],
    ['a bomb', await zipOf(honest(withFile(files, 'words/bomb.txt', Buffer.alloc(70 * 2 ** 20)))), /larger than such a file/],
    ['sound that is shorter than its tape', await zipOf(honest(withFile(files, sound, Buffer.alloc(400)))), /not as long/],
    ['a newer one', await zipOf(manifest({ version: 2 })), /newer/],
    ['another zip', await zipOf([['holiday.txt', Buffer.from('sun')]]), /no manifest/],
    ['a manifest of nonsense', await zipOf([...withFile(files, MANIFEST, Buffer.from('{"format":'))]), /manifest can’t be read/],
    ['locked', locked(archive), /password/],
    ['a piece of nonsense', await zipOf(honest(changed(({ pieces }) => void (pieces[0].body.spans[0].to = -1)))), /makes no sense/],
    [
      'a piece that plays what is not there',
      await zipOf(honest(changed(({ pieces }) => void (pieces[0].body.spans[0].tape = crypto.randomUUID())))),
      /not in it/,
    ],
    ['something nobody knows', await zipOf(honest(withFile(files, 'bin/run.sh', Buffer.from('#!/bin/sh')))), /Nobody knows/],
  ]
}
