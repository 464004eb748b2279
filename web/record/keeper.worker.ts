import { recordingBytes, recordingHeader } from '../../core/sound/recording'

/**
 * Keeps a recording: each chunk goes into the browser's own storage at once, on disk before the
 * next one comes, and from there to the server, as a resumable upload (tus) whose length is told at
 * its end. What a browser that was killed left behind is sent the same way.
 */
export type ToKeeper =
  | { do: 'begin'; name: string; channels: number; rate: number; input: MessagePort; story: string | null }
  /** Whether what comes is part of the take. */
  | { do: 'take'; on: boolean }
  | { do: 'end' }
  /** Sends what is left of takes that no page is at work on. */
  | { do: 'leftBehind' }
export type FromKeeper = { tape: string } | { frames: number } | { over: string } | { lost: boolean } | { found: string }

const FOLDER = 'recordings'
const PIECE = 1 << 19
const LEAST_MS = 200
const AGAIN_MS = 1000
const TUS = { 'Tus-Resumable': '1.0.0' }

const say = (message: FromKeeper) => postMessage(message)
const pause = (ms: number) => new Promise((done) => setTimeout(done, ms))
const folder = async () => (await navigator.storage.getDirectory()).getDirectoryHandle(FOLDER, { create: true })

/** The upload that a file belongs to is kept beside it. */
interface Place {
  name: string
  story: string | null
  url: string | null
}

class Take {
  written = 0
  private ended = false
  private sent = 0

  private constructor(
    private readonly key: string,
    private readonly file: FileSystemSyncAccessHandle,
    private readonly place: Place,
  ) {}

  static async begin(key: string, place: Place): Promise<Take> {
    const handle = await (await folder()).getFileHandle(`${key}.wav`, { create: true })
    const take = new Take(key, await handle.createSyncAccessHandle(), place)
    await take.keepPlace()
    return take
  }

  static async leftBehind(key: string): Promise<Take> {
    const there = await folder()
    const place = JSON.parse(await (await (await there.getFileHandle(`${key}.json`)).getFile()).text()) as Place
    const take = new Take(key, await (await there.getFileHandle(`${key}.wav`)).createSyncAccessHandle(), place)
    take.written = take.file.getSize()
    take.ended = true
    return take
  }

  private async keepPlace(): Promise<void> {
    const file = await (await (await folder()).getFileHandle(`${this.key}.json`, { create: true })).createSyncAccessHandle()
    file.truncate(0)
    file.write(new TextEncoder().encode(JSON.stringify(this.place)))
    file.flush()
    file.close()
  }

  write(bytes: Uint8Array<ArrayBuffer>): void {
    this.file.write(bytes, { at: this.written })
    this.file.flush()
    this.written += bytes.length
  }

  end(): void {
    this.ended = true
  }

  /** Sends what there is until it is all there, over however many breaks. */
  async send(): Promise<void> {
    for (let known = this.place.url === null; ; ) {
      try {
        if (!this.place.url) await this.open()
        else if (!known) this.sent = await this.offset()
        known = true
        say({ lost: false })
        while (!this.ended || this.sent < this.written) {
          if (this.sent < this.written) await this.patch()
          if (!this.ended) await pause(LEAST_MS)
        }
        await this.patch(true)
        break
      } catch (error) {
        if (error instanceof Gone) break
        say({ lost: true })
        known = false
        await pause(AGAIN_MS)
      }
    }
    this.file.close()
    const there = await folder()
    await there.removeEntry(`${this.key}.wav`)
    await there.removeEntry(`${this.key}.json`)
    say({ over: this.tape })
  }

  private get tape(): string {
    return this.place.url?.split('/').at(-1) ?? ''
  }

  private async open(): Promise<void> {
    const about = Object.entries({ filename: this.place.name, ...(this.place.story ? { story: this.place.story } : {}) })
    const metadata = about.map(([key, value]) => `${key} ${btoa(String.fromCharCode(...new TextEncoder().encode(value)))}`).join(',')
    const answer = await fetch('/api/uploads', { method: 'POST', headers: { ...TUS, 'Upload-Defer-Length': '1', 'Upload-Metadata': metadata } })
    if (!answer.ok) throw new Error(String(answer.status))
    this.place.url = answer.headers.get('Location')
    await this.keepPlace()
    say({ tape: this.tape })
  }

  private async offset(): Promise<number> {
    const answer = await fetch(this.place.url!, { method: 'HEAD', headers: TUS })
    if (answer.status === 404 || answer.status === 410) throw new Gone()
    if (!answer.ok) throw new Error(String(answer.status))
    return Number(answer.headers.get('Upload-Offset'))
  }

  private async patch(last = false): Promise<void> {
    const bytes = new Uint8Array(Math.min(PIECE, this.written - this.sent))
    this.file.read(bytes, { at: this.sent })
    const answer = await fetch(this.place.url!, { method: 'PATCH', headers: { ...TUS, 'Upload-Offset': String(this.sent), 'Content-Type': 'application/offset+octet-stream', ...(last ? { 'Upload-Length': String(this.written) } : {}) }, body: bytes })
    if (answer.status === 404 || answer.status === 410) throw new Gone()
    if (!answer.ok) throw new Error(String(answer.status))
    this.sent = Number(answer.headers.get('Upload-Offset'))
  }
}

/** The upload was called off, or is over. */
class Gone extends Error {}

let take: Take | null = null
let taking = false

self.onmessage = async ({ data }: MessageEvent<ToKeeper>) => {
  switch (data.do) {
    case 'begin': {
      const key = crypto.randomUUID()
      await new Promise<void>((held) => void navigator.locks.request(`recording-${key}`, () => (held(), new Promise(() => undefined))))
      const begun = await Take.begin(key, { name: data.name, story: data.story, url: null })
      begun.write(recordingHeader(data.channels, data.rate, '', new Date()))
      take = begun
      taking = true
      let frames = 0
      data.input.onmessage = ({ data: samples }: MessageEvent<Float32Array[]>) => {
        if (!taking || take !== begun) return
        begun.write(recordingBytes(samples.slice(0, data.channels)))
        frames += samples[0].length
        say({ frames })
      }
      void begun.send()
      return
    }
    case 'take':
      taking = data.on
      return
    case 'end':
      take?.end()
      take = null
      return
    case 'leftBehind': {
      const there = await folder()
      for await (const name of there.keys()) {
        if (!name.endsWith('.wav')) continue
        const key = name.slice(0, -4)
        void navigator.locks.request(`recording-${key}`, { ifAvailable: true }, async (lock) => {
          if (!lock) return
          try {
            const left = await Take.leftBehind(key)
            say({ found: key })
            await left.send()
          } catch {
            // nothing was written, or another page has it
          }
        })
      }
    }
  }
}
