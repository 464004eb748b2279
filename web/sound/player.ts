import { toast } from 'sonner'
import type { Plan } from '../../core/render/plan'
import { clamp, RATE, type Frames, type Stretch } from '../../core/time'
import MixerWorker from './mixer.worker.ts?worker'
import type { FromMixer, ToMixer } from './mixer.worker'
import workletUrl from './output.worklet.ts?worker&url'
import type { Remap } from './remap'
import { placeAt, withSegment, type Segment } from './segments'
import { makeRingMemory, MISSED, PEAK_LEFT, PEAK_RIGHT, READ, ringOn } from './ring'

/** A sound output that does not open in so long does not open. */
const OUTPUT_MS = 4000

/**
 * Plays plans. One for the whole application: whatever starts to play, what played before stops.
 * Places are frames of the plan that is loaded.
 */
export class Player {
  private readonly memory = makeRingMemory()
  private readonly ring = ringOn(this.memory)
  private worker: Worker | null = null
  private context: AudioContext | null = null
  private output: AudioWorkletNode | null = null
  private segments: Segment[] = []
  private resting: Frames = 0
  private readonly listeners = new Set<() => void>()
  private began: ((at: number) => void) | null = null
  private plan: Plan | null = null
  private unloaded: ReturnType<typeof setTimeout> | null = null
  playing = false
  /** It is to play, and what is next has not come yet. */
  waiting = false
  /** What played last was not stopped. */
  cameToEnd = false
  /** How fast it plays: 1 as it is, below nothing backwards. */
  speed = 1
  /** Where nobody speaks it goes faster. */
  hurrying = localStorage.hurry === 'yes'
  private pauses: readonly Stretch[] = []
  private scrubbing = false
  private loop: { from: Frames; to: Frames } | null = null
  /** Every play and every stop begins a new run. */
  private run = 0
  /** Whose plan is loaded: a view plays only what it loaded itself. */
  owner: unknown = null

  /** Begun with the first plan: many a view plays nothing. */
  private begin(): Worker {
    const worker = new MixerWorker()
    worker.onmessage = ({ data }: MessageEvent<FromMixer>) => {
      if ('failed' in data) this.fail('Playing stopped: the sound can’t be fetched. Check the connection, and play again.')
      else if ('waiting' in data) this.wait(data.waiting)
      else this.segments = withSegment(data.fresh ? [] : this.segments, data.segment, Atomics.load(this.ring.control, READ))
    }
    worker.postMessage({ do: 'ring', ring: this.memory } satisfies ToMixer)
    return worker
  }

  private tell = (message: ToMixer) => (this.worker ??= this.begin()).postMessage(message)

  /** The audio context may only begin once the person has done something. */
  private async ready(): Promise<AudioContext> {
    if (!this.context) {
      const context = new AudioContext({ sampleRate: RATE, latencyHint: 'interactive' })
      this.context = context
      // a device that goes away takes the sound with it
      context.onstatechange = () =>
        void (context.state !== 'running' && this.sounding && this.fail('Playing stopped: the sound output is not available.'))
      await context.audioWorklet.addModule(workletUrl)
      const output = new AudioWorkletNode(context, 'output', { numberOfInputs: 0, outputChannelCount: [2] })
      output.port.postMessage({ ring: this.memory })
      output.port.onmessage = ({ data }: MessageEvent<{ began?: number; ended?: boolean; captured?: Float32Array[][] }>) => {
        if (data.began) this.began?.(data.began)
        if (data.ended) this.ended()
        if (data.captured) this.onCaptured?.(data.captured)
      }
      output.connect(context.destination)
      this.output = output
    }
    const { context } = this
    if (context.state === 'suspended') await context.resume()
    return context
  }

  /** Warms up what takes time at the first play. */
  warm(): void {
    void this.ready()
  }

  /** Sound has gone out since it began to play. */
  private get sounding(): boolean {
    return this.playing && this.segments.length > 0
  }

  private wait(waiting: boolean): void {
    if (!this.playing || waiting === this.waiting) return
    this.waiting = waiting
    this.changed()
  }

  /** What plays stops where it was, and it is said why. */
  private fail(why: string): void {
    if (!this.playing && !this.scrubbing) return
    this.scrubbing = false
    this.stop()
    toast.error(why, { id: 'not playing', duration: 10_000 })
  }

  private ended(): void {
    if (!this.playing) return
    if (this.loop) return void this.play(this.loop.from, this.loop.to, true)
    this.cameToEnd = true
    this.resting = this.position
    this.playing = this.waiting = false
    this.forwards()
    this.changed()
  }

  /** Backwards is for as long as it runs. */
  private forwards(): void {
    if (this.speed < 0) this.speed = 1
  }

  load(owner: unknown, plan: Plan): void {
    if (this.owner !== owner) {
      this.stop()
      this.setPauses(this.owner, [])
    }
    if (this.plan === plan && this.owner === owner) return
    this.owner = owner
    this.loadSoon(plan)
  }

  /** A plan takes a while to hand over, so it goes when nothing else is to do, or when it is to sound. */
  private loadSoon(plan: Plan): void {
    this.plan = plan
    clearTimeout(this.unloaded ?? undefined)
    this.unloaded = setTimeout(() => this.loadNow(), 40)
  }

  private loadNow(): void {
    if (this.unloaded === null || !this.plan) return
    clearTimeout(this.unloaded)
    this.unloaded = null
    this.tell({ do: 'load', plan: this.plan })
  }

  /** Takes another plan for the one that is loaded; where it plays it goes on, at the same place of the sound. */
  exchange(owner: unknown, plan: Plan, remap: Remap): void {
    if (this.owner !== owner) return this.load(owner, plan)
    if (this.plan === plan) return
    if (!this.playing) return this.loadSoon(plan)
    this.loadNow()
    this.plan = plan
    this.tell({ do: 'exchange', plan, remap })
  }

  /** `again`: from its end it begins anew, until it is stopped. */
  async play(from: Frames, to: Frames = this.plan?.length ?? 0, again = false): Promise<void> {
    this.loadNow()
    this.scrubbing = false
    this.cameToEnd = false
    this.loop = again ? { from, to } : null
    const begin = () =>
      this.tell({
        do: 'play',
        speed: this.speed,
        from: Math.max(0, Math.round(from)),
        to: Math.round(Math.min(to, this.plan?.length ?? 0)),
      })
    this.resting = from
    this.segments = []
    this.playing = true
    const mine = ++this.run
    // where all is set up the sound begins first, and what is shown follows
    const set = this.context?.state === 'running'
    if (set) begin()
    this.changed()
    if (set) return
    const there = await Promise.race([
      this.ready().then(
        () => true,
        () => false,
      ),
      new Promise<false>((late) => setTimeout(() => late(false), OUTPUT_MS)),
    ])
    // another play, or a stop, that came while the output was set up counts
    if (mine !== this.run) return
    if (!there) return this.fail('It can’t be played: the sound output is not available.')
    begin()
  }

  stop(): void {
    if (this.scrubbing) this.scrub(null)
    if (!this.playing) return
    this.run++
    this.resting = this.position
    this.playing = this.waiting = false
    this.loop = null
    this.forwards()
    this.tell({ do: 'stop' })
    this.changed()
  }

  /** Another speed from now on, at the same pitch; what plays goes on at it. */
  setSpeed(speed: number): void {
    if (speed === this.speed) return
    this.speed = speed
    this.tell({ do: 'speed', speed })
    this.changed()
  }

  /** Where nobody speaks on the plan that is loaded. */
  setPauses(owner: unknown, pauses: readonly Stretch[]): void {
    if (this.owner !== owner || this.pauses === pauses) return
    this.pauses = pauses
    if (this.hurrying) this.tell({ do: 'hurry', pauses })
  }

  setHurrying(hurrying: boolean): void {
    this.hurrying = hurrying
    localStorage.hurry = hurrying ? 'yes' : 'no'
    this.tell({ do: 'hurry', pauses: hurrying ? this.pauses : [] })
    this.changed()
  }

  /** Sounds what a hand is drawn over; null: it has let go. What played stops. */
  scrub(to: Frames | null): void {
    if (to === null) {
      if (this.scrubbing) this.tell({ do: 'stop' })
      this.scrubbing = false
      return
    }
    if (!this.scrubbing) {
      this.stop()
      this.scrubbing = true
      void this.ready()
    }
    this.loadNow()
    this.resting = clamp(Math.round(to), 0, this.plan?.length ?? 0)
    this.tell({ do: 'scrub', to: this.resting })
  }

  prefetch(owner: unknown, from: Frames): void {
    if (this.owner !== owner || this.playing || this.scrubbing) return
    this.loadNow()
    this.tell({ do: 'prefetch', from: Math.max(0, Math.round(from)) })
  }

  /** Where it is: while it plays, of the frame that goes out now. */
  get position(): Frames {
    if (!this.playing || !this.segments.length) return this.resting
    return Math.round(placeAt(this.segments, Atomics.load(this.ring.control, READ)))
  }

  /** Highest levels since last asked, left and right, as factors. */
  takePeaks(): [number, number] {
    const bits = Int32Array.of(Atomics.exchange(this.ring.control, PEAK_LEFT, 0), Atomics.exchange(this.ring.control, PEAK_RIGHT, 0))
    const [left, right] = new Float32Array(bits.buffer)
    return [left, right]
  }

  /** Blocks that went out without sound because none was there in time. */
  get missed(): number {
    return Atomics.load(this.ring.control, MISSED)
  }

  /** When the first frame of a play was written to the output, in milliseconds since 1970. For measurements. */
  onBegan(listener: (at: number) => void): void {
    this.began = listener
  }

  private onCaptured: ((blocks: Float32Array[][]) => void) | null = null

  /** Begins to keep what goes out, to the bit; what it gives ends that and hands it over. For tests and measurements. */
  async capture(): Promise<() => Promise<Float32Array[][]>> {
    await this.ready()
    this.output!.port.postMessage({ capture: true })
    return () =>
      new Promise((resolve) => {
        this.onCaptured = resolve
        this.output!.port.postMessage({ capture: false })
      })
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener)
    return () => void this.listeners.delete(listener)
  }

  private changed(): void {
    this.listeners.forEach((listener) => listener())
  }
}

export const player = new Player()

// for tests and measurements, which drive the real page
Object.assign(globalThis, { plainCutPlayer: player })
