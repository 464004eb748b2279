import { toast } from 'sonner'
import type * as tus from 'tus-js-client'
import { create } from 'zustand'
import type { TapeInfo } from '../../contract/tapes'
import { get, Refused, remove } from '../api/client'
import { onNotice } from '../api/notices'
import { askWhatItIs, isText } from '../texts/texts'
import { alone, keepFile, keepPlace, leftBehind, letGo, type KeptFile } from './kept'

/** A file on its way in: one queue, and one place to see it. */
export interface Upload {
  key: string
  name: string
  size: number
  sent: number
  /** Waiting for its turn, sending, halted by hand, out of reach of the server, or all there and being listened to. */
  state: 'waiting' | 'sending' | 'paused' | 'lost' | 'arriving'
  /** The tape it becomes, from its first bytes on. */
  tape: string | null
}

export const useUploads = create<{ list: Upload[] }>(() => ({ list: [] }))

const AT_ONCE = 2
const AGAIN_MS = 1500

const change = (key: string, fields: Partial<Upload>) =>
  useUploads.setState(({ list }) => ({ list: list.map((one) => (one.key === key ? { ...one, ...fields } : one)) }))
const drop = (key: string) => useUploads.setState(({ list }) => ({ list: list.filter((one) => one.key !== key) }))

/** What is done about each, beyond what is shown of it. */
class Sending {
  private upload: tus.Upload | null = null
  /** Every start, halt and end begins a new turn; what is still under way from an older one does nothing more. */
  private turn = 0
  private again: ReturnType<typeof setTimeout> | undefined
  private end!: () => void
  /** Until it is in, refused or called off. */
  readonly over = new Promise<void>((done) => (this.end = done))

  constructor(
    private readonly kept: KeptFile,
    /** Told once it is a tape, or where it was one already. */
    private readonly onReady?: (tape: string) => void,
  ) {}

  private get shown(): Upload | undefined {
    return useUploads.getState().list.find(({ key }) => key === this.kept.key)
  }

  async start(): Promise<void> {
    const { kept } = this
    change(kept.key, { state: 'sending' })
    // comes with the first file: most pages never need it
    const { Upload: TusUpload } = await import('tus-js-client')
    const turn = ++this.turn
    if (this.shown?.state !== 'sending') return
    const now =
      <T extends unknown[]>(act: (...all: T) => void) =>
      (...all: T) =>
        void (turn === this.turn && act(...all))
    this.upload = new TusUpload(kept.file, {
      endpoint: '/api/uploads',
      uploadUrl: kept.url,
      metadata: { filename: kept.file.name, ...(kept.story ? { story: kept.story } : {}) },
      storeFingerprintForResuming: false,
      retryDelays: [],
      onBeforeRequest: () => {
        if (turn !== this.turn) throw new Error('halted')
      },
      onUploadUrlAvailable: now(() => {
        const url = this.upload!.url!
        kept.url = url
        kept.tape = url.split('/').at(-1)!
        void keepPlace(kept)
        change(kept.key, { tape: kept.tape })
      }),
      onProgress: now((sent: number) => change(kept.key, { sent, state: 'sending' })),
      onSuccess: now(() => {
        change(kept.key, { sent: kept.file.size, state: 'arriving' })
        void letGo(kept.key)
        next()
        void this.watch()
      }),
      onError: now((error: Error | tus.DetailedError) => this.failed(error)),
    })
    this.upload.start()
  }

  /** A server that does not answer is tried again; one that refuses has a reason. */
  private failed(error: Error | tus.DetailedError): void {
    const response = 'originalResponse' in error ? error.originalResponse : null
    const status = response?.getStatus() ?? 0
    if (status >= 400 && status < 500 && status !== 423) {
      const reason = response?.getBody()
      return this.leave(reason && reason.length < 300 ? reason.trim() : `“${this.kept.file.name}” was not taken in. Please try again.`)
    }
    change(this.kept.key, { state: 'lost' })
    this.again = setTimeout(() => this.shown?.state === 'lost' && void this.start(), AGAIN_MS)
  }

  private halt(): Promise<void> | undefined {
    this.turn++
    clearTimeout(this.again)
    return this.upload?.abort()
  }

  pause(): void {
    void this.halt()
    change(this.kept.key, { state: 'paused' })
    next()
  }

  async cancel(): Promise<void> {
    await this.halt()
    if (this.kept.tape) void remove(`/tapes/${this.kept.tape}/arrival`).catch(() => undefined)
    this.leave()
  }

  private leave(reason?: string): void {
    if (reason) toast.error(reason, { duration: 10_000 })
    void letGo(this.kept.key)
    drop(this.kept.key)
    sendings.delete(this.kept.key)
    this.end()
    next()
  }

  /** All of it is there: until it is a tape, or it is known why not. */
  private watch = async (): Promise<void> => {
    const id = this.kept.tape!
    const name = this.kept.file.name
    const stop = onNotice((notice) => {
      if (notice === 'missed' || (notice !== 'opened' && notice.about === 'tape' && notice.id === id && !notice.grown)) void look()
    })
    const look = async () => {
      const tape = await get<TapeInfo>(`/tapes/${id}`).catch((error: unknown) => (error instanceof Refused ? null : undefined))
      if (tape === undefined || tape?.state === 'arriving' || !this.shown) return
      stop()
      if (tape?.state === 'ready') toast.success(`“${name}” is ready.`, { action: { label: 'Open', onClick: () => open(id) } })
      else if (tape?.twin) toast.info(tape.error, { duration: 10_000, action: { label: 'Open', onClick: () => open(tape.twin!) } })
      if (tape?.state === 'ready') this.onReady?.(id)
      else if (tape?.twin) this.onReady?.(tape.twin)
      if (tape?.state === 'failed') void remove(`/tapes/${id}/arrival`).catch(() => undefined)
      this.leave(tape?.state === 'failed' && !tape.twin ? tape.error : undefined)
    }
    await look()
  }
}

const sendings = new Map<string, Sending>()
/** How a tape is opened from here; set by whoever can. */
let open: (tape: string) => void = () => undefined
export const onOpen = (how: typeof open): void => void (open = how)

/** Lets as many go as may go at once. */
function next(): void {
  const { list } = useUploads.getState()
  const going = list.filter(({ state }) => state === 'sending' || state === 'lost').length
  for (const { key } of list.filter(({ state }) => state === 'waiting').slice(0, Math.max(0, AT_ONCE - going)))
    void sendings.get(key)?.start()
}

function enqueue(kept: KeptFile, onReady?: (tape: string) => void): void {
  void alone(kept.key, async () => {
    const sending = new Sending(kept, onReady)
    sendings.set(kept.key, sending)
    useUploads.setState(({ list }) => ({
      list: [...list, { key: kept.key, name: kept.file.name, size: kept.file.size, sent: 0, state: 'waiting', tape: kept.tape }],
    }))
    next()
    await sending.over
  })
}

interface Into {
  /** The story that they join. */
  story?: string
  /** Told of each tape that they become, while this page lasts. */
  onReady?: (tape: string) => void
}

/** Imports files. Of text it is asked what it is. */
export function bringIn(files: Iterable<File>, { story, onReady }: Into = {}): void {
  for (const file of files) {
    if (isText(file)) {
      askWhatItIs(file)
      continue
    }
    const kept: KeptFile = { key: crypto.randomUUID(), file, url: null, tape: null, story }
    void keepFile(kept).then(
      (safe) =>
        safe ||
        toast.info(`This browser has no room to store “${file.name}”: keep this page open until it is imported.`, { duration: 10_000 }),
    )
    enqueue(kept, onReady)
  }
}

/** Goes on with what a page that is gone left behind. */
export async function goOn(): Promise<void> {
  for (const kept of await leftBehind()) enqueue(kept)
}

export const pause = (key: string): void => sendings.get(key)?.pause()
export const resume = (key: string): void => {
  change(key, { state: 'waiting' })
  next()
}
export const cancel = (key: string): void => void sendings.get(key)?.cancel()
