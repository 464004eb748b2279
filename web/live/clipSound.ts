import { RATE, milliseconds, type Frames } from '../../core/time'
import workletUrl from './clips.worklet.ts?worker&url'
import type { FromClips, ToClips } from './clips.worklet'

/** What stops at once still fades for so long: it would click. */
const LEAST_FADE: Frames = milliseconds(6)

/** One playing of a clip. */
export interface Run {
  run: number
  clip: string
  at: Frames
  loop: boolean
  /** It is fading out. */
  stopping: boolean
  /** When its key was pressed, in milliseconds since 1970. */
  pressed: number
  /** It had begun to sound then; null until it has. */
  sounded: number | null
}

export interface Ended extends Run {
  /** It was stopped before its end. */
  stopped: boolean
  heard: Frames
}

/** What went out, and how often the next block was asked for so late that it was heard. */
export interface Captured {
  blocks: Float32Array[]
  late: number
}

/** A way out for clips: an output of its own, with all that is ready in memory. */
export class ClipSound {
  private context: AudioContext | null = null
  private node: AudioWorkletNode | null = null
  private opening: Promise<void> | null = null
  private readonly loaded = new Map<string, readonly Float32Array[]>()
  private readonly listeners = new Set<() => void>()
  private last = 0
  runs: readonly Run[] = []
  onEnded: (run: Ended) => void = () => undefined
  private onCaptured: ((captured: Captured) => void) | null = null

  subscribe = (listener: () => void) => {
    this.listeners.add(listener)
    return () => void this.listeners.delete(listener)
  }
  private changed = (runs: readonly Run[]) => {
    this.runs = runs
    this.listeners.forEach((listener) => listener())
  }
  private tell = (message: ToClips) => this.node?.port.postMessage(message)

  /** Whether it can sound at once: a browser lets nothing sound before a person has done something. */
  get awake(): boolean {
    return this.context?.state === 'running'
  }

  /** Opens the output; `device`: its id, empty for the usual one. */
  async open(device = ''): Promise<void> {
    this.opening ??= this.make()
    await this.opening
    const context = this.context as AudioContext & { sinkId?: string; setSinkId?: (id: string) => Promise<void> }
    if (context.setSinkId && (context.sinkId ?? '') !== device) await context.setSinkId(device)
    if (context.state === 'suspended') await context.resume()
    this.changed(this.runs)
  }

  private async make(): Promise<void> {
    const context = new AudioContext({ sampleRate: RATE, latencyHint: 'interactive' })
    this.context = context
    context.onstatechange = () => this.changed(this.runs)
    await context.audioWorklet.addModule(workletUrl)
    const node = new AudioWorkletNode(context, 'clips', { numberOfInputs: 0, outputChannelCount: [2] })
    node.port.onmessage = ({ data }: MessageEvent<FromClips>) => this.hear(data)
    node.connect(context.destination)
    this.node = node
    for (const [load, channels] of this.loaded) this.tell({ load, channels })
  }

  private hear(said: FromClips): void {
    if ('places' in said) {
      const at = new Map(said.places)
      this.changed(this.runs.map((one) => ({ ...one, at: at.get(one.run) ?? one.at })))
    } else if ('began' in said) this.changed(this.runs.map((one) => (one.run === said.began ? { ...one, sounded: said.at } : one)))
    else if ('ended' in said) {
      const one = this.runs.find(({ run }) => run === said.ended)
      this.changed(this.runs.filter(({ run }) => run !== said.ended))
      if (one) this.onEnded({ ...one, stopped: said.stopped, heard: said.heard })
    } else this.onCaptured?.({ blocks: said.captured, late: said.late })
  }

  /** Keeps a clip at hand; one that plays goes on as it is. */
  load(clip: string, channels: readonly Float32Array[]): void {
    this.loaded.set(clip, channels)
    this.tell({ load: clip, channels })
  }

  remove(clip: string): void {
    this.loaded.delete(clip)
    this.tell({ remove: clip })
  }

  has = (clip: string): boolean => this.loaded.has(clip)

  play(clip: string, { loop = false, from = 0 } = {}): void {
    if (!this.loaded.has(clip) || !this.node) return
    const run = ++this.last
    // before anything else: somebody waits for it
    this.tell({ play: clip, run, from, loop })
    this.changed([...this.runs, { run, clip, at: from, loop, stopping: false, pressed: Date.now(), sounded: null }])
  }

  /** Stops a playing of it, at once or over a fade. */
  stop(run: number, fade: Frames = 0): void {
    this.tell({ stop: run, fade: Math.max(LEAST_FADE, fade) })
    this.changed(this.runs.map((one) => (one.run === run ? { ...one, stopping: true } : one)))
  }

  stopAll(): void {
    for (const { run } of this.runs) this.stop(run)
  }

  setLoop(run: number, loop: boolean): void {
    this.tell({ loop, run })
    this.changed(this.runs.map((one) => (one.run === run ? { ...one, loop } : one)))
  }

  /** Begins to keep what goes out on the left, to the bit; what it gives ends that and hands it over. For tests and measurements. */
  capture(): () => Promise<Captured> {
    this.tell({ capture: true })
    return () =>
      new Promise((resolve) => {
        this.onCaptured = resolve
        this.tell({ capture: false })
      })
  }

  async close(): Promise<void> {
    const { context } = this
    this.context = this.node = this.opening = null
    this.changed([])
    await context?.close()
  }
}
