import { recordingBytes, recordingHeader } from '../../core/sound/recording'
import type { Frames } from '../../core/time'

/**
 * Keeps recordings: each chunk goes into the browser's own storage at once, on disk before the
 * next one comes, and from there to the server, as a resumable upload (tus) whose length is told at
 * its end. A take is over when all of it is kept; it may be sent much later. What a browser that was
 * killed left behind is sent the same way.
 */
export type ToKeeper =
  /** `inputs`: which channels of what comes are kept, counted from 0. */
  | { do: 'begin'; key: string; name: string; inputs: number[]; rate: number; input: MessagePort; madeFor: MadeFor }
  /** Whether what comes is part of the take. */
  | { do: 'take'; on: boolean }
  /** A mark for a take whose tape is not there yet, in frames. */
  | { do: 'mark'; at: Frames }
  | { do: 'end' }
  /** Sends what is left of takes that no page is at work on. */
  | { do: 'leftBehind' }

export type FromKeeper = { key: string } & (
  | { kept: Frames }
  /** All of it is in the browser's storage. */
  | { over: Frames }
  /** Nothing more can be kept; what was kept so far is a take. */
  | { failed: 'no room' | 'not allowed' | 'fault'; frames: Frames }
  /** Its tape is there, and the marks that waited for it. */
  | { tape: string; marks: Frames[] }
  | { lost: boolean }
  | { sent: true }
  | { found: string }
)

/** What a take is for: the story that it joins, the line of copy that it was read from, and who recorded it. */
export interface MadeFor {
  story?: string
  line?: string
  author: string
}

const FOLDER = 'recordings'
const PIECE = 1 << 19
const LEAST_MS = 200
const AGAIN_MS = 1000
/** While nothing is to be sent the server hears so often that the recorder is still there. */
const BEAT_MS = 5000
const TUS = { 'Tus-Resumable': '1.0.0' }

const pause = (ms: number) => new Promise((done) => setTimeout(done, ms))
const folder = async () => (await navigator.storage.getDirectory()).getDirectoryHandle(FOLDER, { create: true })

/** The upload that a file belongs to is kept beside it. */
interface Place {
  name: string
  madeFor: MadeFor
  url: string | null
  /** How many bytes stand before the sound, and how many one frame of it has. */
  head: number
  bytesAFrame: number
  marks?: Frames[]
}

class Take {
  private written = 0
  private ended = false
  private sent = 0
  private said = Date.now()

  private constructor(
    readonly key: string,
    private readonly file: FileSystemSyncAccessHandle,
    private place: Place,
  ) {}

  static async begin(key: string, place: Place, header: Uint8Array<ArrayBuffer>): Promise<Take> {
    const handle = await (await folder()).getFileHandle(`${key}.wav`, { create: true })
    const take = new Take(key, await handle.createSyncAccessHandle(), place)
    await take.keepPlace()
    take.write(header)
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

  private say = (message: FromKeeper extends infer M ? (M extends { key: string } ? Omit<M, 'key'> : never) : never) =>
    postMessage({ key: this.key, ...message } as FromKeeper)

  get name(): string {
    return this.place.name
  }

  get frames(): Frames {
    return Math.max(0, Math.floor((this.written - this.place.head) / this.place.bytesAFrame))
  }

  private async keepPlace(): Promise<void> {
    const file = await (await (await folder()).getFileHandle(`${this.key}.json`, { create: true })).createSyncAccessHandle()
    file.truncate(0)
    file.write(new TextEncoder().encode(JSON.stringify(this.place)))
    file.flush()
    file.close()
  }

  /** Throws where not all of it could be kept; then nothing of it was. */
  write(bytes: Uint8Array<ArrayBuffer>): void {
    try {
      const count = this.file.write(bytes, { at: this.written })
      if (count < bytes.length) throw new DOMException('not all of it was written', 'QuotaExceededError')
      this.file.flush()
    } catch (error) {
      this.file.truncate(this.written)
      throw error
    }
    this.written += bytes.length
  }

  /** A mark that cannot be put on its tape yet is kept with the take. */
  async mark(at: Frames): Promise<void> {
    if (this.place.url) return void this.say({ tape: this.tape, marks: [at] })
    this.place = { ...this.place, marks: [...(this.place.marks ?? []), at] }
    await this.keepPlace()
  }

  end(): void {
    if (this.ended) return
    this.ended = true
    this.say({ over: this.frames })
  }

  /** Sends what there is until it is all there, over however many breaks. */
  async send(): Promise<void> {
    for (let known = this.place.url === null; ;) {
      try {
        if (!this.place.url) await this.open()
        else if (!known) this.sent = await this.offset()
        known = true
        this.say({ lost: false })
        while (!this.ended || this.sent < this.written) {
          if (this.sent < this.written) await this.patch()
          else if (Date.now() - this.said > BEAT_MS) await this.offset()
          if (!this.ended) await pause(LEAST_MS)
        }
        if (this.frames) await this.patch(true)
        else await this.ask(`/api/tapes/${this.tape}/arrival`, 'DELETE', {})
        break
      } catch (error) {
        if (error instanceof Gone && !(await this.anew())) break
        this.say({ lost: !(error instanceof Gone) })
        known = this.place.url === null
        await pause(AGAIN_MS)
      }
    }
    this.file.close()
    const there = await folder()
    await there.removeEntry(`${this.key}.wav`)
    await there.removeEntry(`${this.key}.json`)
    this.say({ sent: true })
  }

  /**
   * The server ended the upload: where it was too long without a word of this recorder, and has less than there is
   * here, all of it is sent anew. False where somebody called it off.
   */
  private async anew(): Promise<boolean> {
    const answer = await fetch(`/api/tapes/${this.tape}`).catch(() => null)
    if (!answer?.ok) return !answer || answer.status >= 500
    const tape = (await answer.json()) as { state: string; complete: boolean; bytes: number }
    if (tape.state === 'failed' || !tape.complete || tape.bytes >= this.written) return false
    this.sent = 0
    this.place = { ...this.place, url: null, name: this.place.name.replace(/(\.wav)?$/, ', whole take.wav') }
    await this.keepPlace()
    return true
  }

  private get tape(): string {
    return this.place.url?.split('/').at(-1) ?? ''
  }

  private async ask(url: string, method: string, headers: Record<string, string>, body?: Uint8Array<ArrayBuffer>): Promise<Response> {
    const answer = await fetch(url, { method, headers: { ...TUS, ...headers }, body })
    if (answer.status === 404 || answer.status === 410) throw new Gone()
    if (!answer.ok) throw new Error(String(answer.status))
    this.said = Date.now()
    return answer
  }

  private async open(): Promise<void> {
    const metadata = Object.entries({ filename: this.place.name, ...this.place.madeFor })
      .map(([key, value]) => `${key} ${btoa(String.fromCharCode(...new TextEncoder().encode(value)))}`)
      .join(',')
    const answer = await this.ask('/api/uploads', 'POST', { 'Upload-Defer-Length': '1', 'Upload-Metadata': metadata })
    const { marks = [] } = this.place
    this.place = { ...this.place, url: answer.headers.get('Location') }
    await this.keepPlace()
    this.say({ tape: this.tape, marks })
    this.place = { ...this.place, marks: [] }
  }

  private async offset(): Promise<number> {
    return Number((await this.ask(this.place.url!, 'HEAD', {})).headers.get('Upload-Offset'))
  }

  private async patch(last = false): Promise<void> {
    const bytes = new Uint8Array(Math.min(PIECE, this.written - this.sent))
    this.file.read(bytes, { at: this.sent })
    const headers = {
      'Upload-Offset': String(this.sent),
      'Content-Type': 'application/offset+octet-stream',
      ...(last ? { 'Upload-Length': String(this.written) } : {}),
    }
    this.sent = Number((await this.ask(this.place.url!, 'PATCH', headers, bytes)).headers.get('Upload-Offset'))
  }
}

/** The upload was called off, or is over. */
class Gone extends Error {}

/** Why the browser could not keep something. */
function reason(error: unknown): 'no room' | 'not allowed' | 'fault' {
  const { name } = error as DOMException
  if (name === 'QuotaExceededError') return 'no room'
  return name === 'SecurityError' || name === 'NotAllowedError' ? 'not allowed' : 'fault'
}

let take: Take | null = null
let taking = false

async function begin({ key, name, inputs, rate, input, madeFor }: ToKeeper & { do: 'begin' }): Promise<void> {
  // what comes while the file is opened waits in the port
  let begun: Take
  try {
    await new Promise<void>((held) => void navigator.locks.request(`recording-${key}`, () => (held(), new Promise(() => undefined))))
    const header = recordingHeader(inputs.length, rate, '', new Date())
    begun = await Take.begin(key, { name, madeFor, url: null, head: header.length, bytesAFrame: inputs.length * 4 }, header)
  } catch (error) {
    return postMessage({ key, failed: reason(error), frames: 0 } satisfies FromKeeper)
  }
  take = begun
  taking = true
  input.onmessage = ({ data: samples }: MessageEvent<Float32Array[]>) => {
    if (!taking || take !== begun) return
    try {
      begun.write(recordingBytes(inputs.map((channel) => samples[channel] ?? samples[0])))
      postMessage({ key, kept: begun.frames } satisfies FromKeeper)
    } catch (error) {
      take = null
      postMessage({ key, failed: reason(error), frames: begun.frames } satisfies FromKeeper)
      begun.end()
    }
  }
  void begun.send()
}

async function leftBehind(): Promise<void> {
  const there = await folder()
  for await (const name of there.keys()) {
    if (!name.endsWith('.wav')) continue
    const key = name.slice(0, -4)
    void navigator.locks.request(`recording-${key}`, { ifAvailable: true }, async (lock) => {
      if (!lock) return
      try {
        const left = await Take.leftBehind(key)
        postMessage({ key, found: left.name } satisfies FromKeeper)
        await left.send()
      } catch {
        // nothing was written, or another page has it
      }
    })
  }
}

async function follow(message: ToKeeper): Promise<void> {
  switch (message.do) {
    case 'begin':
      return begin(message)
    case 'take':
      taking = message.on
      return
    case 'mark':
      return take?.mark(message.at)
    case 'end':
      take?.end()
      take = null
      return
    case 'leftBehind':
      return leftBehind()
  }
}

/** One after another: an end that comes while a take is being opened ends that take. */
let turn: Promise<unknown> = Promise.resolve()
self.onmessage = ({ data }: MessageEvent<ToKeeper>) => (turn = turn.then(() => follow(data)).catch(() => undefined))
