import { createReadStream, openSync, closeSync, readSync, fstatSync } from 'node:fs'
import { mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises'
import { join } from 'node:path'
import type { Readable } from 'node:stream'

/** Nothing is in the making for longer than this. */
const HALF_MADE_MS = 24 * 60 * 60 * 1000

/**
 * Where sound lies: named things in a few shelves. A folder now; another kind of store would do
 * the same few things. Names are made by us of ids and fixed words, never of file names that
 * came from outside.
 */
export class MediaStore {
  constructor(private readonly folder: string) {}

  async open(): Promise<void> {
    await mkdir(join(this.folder, 'tapes'), { recursive: true })
    await mkdir(join(this.folder, 'sent'), { recursive: true })
    await mkdir(this.stills, { recursive: true })
    await mkdir(join(this.folder, 'kept'), { recursive: true })
    await mkdir(this.uploads, { recursive: true })
    await mkdir(this.arrivals, { recursive: true })
    await mkdir(join(this.folder, 'making'), { recursive: true })
    // what an end cut short; what is newer may be another server's work
    for (const folder of [join(this.folder, 'making'), this.arrivals])
      for (const name of await readdir(folder)) {
        const path = join(folder, name)
        const { mtimeMs } = await stat(path).catch(() => ({ mtimeMs: Infinity }))
        if (Date.now() - mtimeMs > HALF_MADE_MS) await this.remove(path)
      }
  }

  /** A path to make something under, before it is kept. */
  making = (name: string): string => join(this.folder, 'making', name)

  /** Where a tape's file lies while it comes, and what the upload is known by beside it. */
  get uploads(): string {
    return join(this.folder, 'uploads')
  }
  /** Where story files lie while they come. */
  get arrivals(): string {
    return join(this.folder, 'arrivals')
  }
  upload = (id: string): string => join(this.uploads, id)
  removeUpload = async (id: string): Promise<void> => {
    await this.remove(this.upload(id))
    await this.remove(`${this.upload(id)}.json`)
  }

  tape = (id: string): string => join(this.folder, 'tapes', id)
  original = (id: string): string => join(this.tape(id), 'original')
  /** A file of a sound: of a tape's own, or of what was made of it. */
  private of(sound: string, own: string, name: string): string {
    const [id, made] = sound.split('.')
    return join(this.tape(id), made ? `${made}-${name}` : `${own}${name}`)
  }
  /** 48 kHz, 32-bit float, little-endian, one channel. */
  channel = (sound: string, channel: number): string => this.of(sound, 'sound-', `${channel}.f32`)
  /** K-weighted mean square of each tenth of a second: 32-bit float. */
  loudness = (sound: string, channel: number): string => this.of(sound, '', `loudness-${channel}.f32`)
  /** What patches are looked for in: made when first one is sought. */
  looks = (sound: string, channel: number): string => this.of(sound, '', `looks-${channel}.f32`)
  peaks = (sound: string, channel: number, level: number): string => this.of(sound, '', `peaks-${channel}-${level}.i16`)
  /** What was heard on the sides of a tape, for finders, as JSON. */
  heard = (id: string): string => join(this.tape(id), 'heard.json')
  sent = (id: string): string => join(this.folder, 'sent', id)
  /** The script that goes beside what was sent. */
  script = (id: string): string => join(this.folder, 'sent', `${id}.docx`)
  /** A still image for pictures. */
  still = (id: string): string => join(this.stills, id)
  get stills(): string {
    return join(this.folder, 'stills')
  }
  /** A story file, on its way out or back. */
  storyFile = (id: string): string => join(this.folder, 'kept', id)

  keep = (made: string, as: string): Promise<void> => rename(made, as)
  remove = (path: string): Promise<void> => rm(path, { recursive: true, force: true })
  /** All that a folder holds, in bytes. */
  sizeOfAll = async (folder: string): Promise<number> => {
    const sizes = await Promise.all((await readdir(folder)).map((name) => this.size(join(folder, name))))
    return sizes.reduce((sum, size) => sum + size, 0)
  }
  size = async (path: string): Promise<number> => (await stat(path)).size
  /** A short stretch at once: bytes `[from, to)`, as far as they are there. */
  stretch = async (path: string, from: number, to: number): Promise<Buffer> => {
    const file = await open(path)
    try {
      const bytes = Buffer.allocUnsafe(Math.max(0, to - from))
      let got = 0
      while (got < bytes.length) {
        const { bytesRead } = await file.read(bytes, got, bytes.length - got, from + got)
        if (!bytesRead) break
        got += bytesRead
      }
      return bytes.subarray(0, got)
    } finally {
      void file.close()
    }
  }
  /** A long one as it comes: bytes `[from, to)`, as far as they are there. */
  read = (path: string, from = 0, to = Infinity): Readable => createReadStream(path, { start: from, end: Math.max(from, to - 1) })
}

/** Reads frames of a sound's channels, for the renderer, in pieces that it keeps at hand. */
export class SoundFiles {
  private readonly files = new Map<string, { descriptor: number; frames: number; held: Float32Array; from: number; count: number }>()

  constructor(
    private readonly store: Pick<MediaStore, 'channel'>,
    private readonly ahead = 1 << 16,
  ) {}

  private file(sound: string, channel: number) {
    const key = `${sound}/${channel}`
    let file = this.files.get(key)
    if (!file) {
      const descriptor = openSync(this.store.channel(sound, channel), 'r')
      file = { descriptor, frames: Math.floor(fstatSync(descriptor).size / 4), held: new Float32Array(this.ahead), from: 0, count: 0 }
      this.files.set(key, file)
    }
    return file
  }

  read = (sound: string, channel: number, from: number, to: number): Float32Array => {
    const file = this.file(sound, channel)
    if (from < file.from || to > file.from + file.count) {
      if (to - from > file.held.length) file.held = new Float32Array(to - from)
      file.from = from
      file.count = Math.max(to - from, Math.min(file.held.length, file.frames - from))
      const start = Math.min(Math.max(0, from), from + file.count)
      const wanted = Math.max(0, Math.min(file.frames, from + file.count) - start)
      const bytes = new Uint8Array(file.held.buffer, (start - from) * 4, wanted * 4)
      let got = 0
      while (got < bytes.length) {
        const count = readSync(file.descriptor, bytes, got, bytes.length - got, start * 4 + got)
        if (count === 0) break
        got += count
      }
      file.held.fill(0, 0, start - from)
      file.held.fill(0, start - from + wanted, file.count)
    }
    return file.held.subarray(from - file.from, to - file.from)
  }

  close(): void {
    for (const file of this.files.values()) closeSync(file.descriptor)
    this.files.clear()
  }
}
