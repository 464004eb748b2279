import { SILENCE, type TapeFigures } from '../../core/hearing/ear'
import { loudnessOfParts, type HeardPart, type PlanLoudness } from '../../core/render/meter'
import type { Plan } from '../../core/render/plan'
import type { Stretch } from '../../core/time'
import HearingWorker from './hearing.worker.ts?worker'
import type { Back } from '../../core/page/story'
import type { Alike, AnyOrder, FromHearing, Heard, HearingOrder, Look, LookOrder, ToHearing } from './hearing.worker'

/** As many listen at once as leave the machine room for what plays and is drawn. */
const MOST = Math.max(1, Math.min(2, (navigator.hardwareConcurrency || 1) - 1))

interface Waiting {
  resolve: (heard: Heard) => void
  reject: (error: Error) => void
}

/** A worker that listens, and what was asked of it and is not told yet. */
class Listener {
  private readonly worker = new HearingWorker()
  readonly waiting = new Map<number, Waiting>()

  constructor() {
    this.worker.onmessage = ({ data }: MessageEvent<FromHearing>) => {
      const one = this.waiting.get(data.id)
      this.waiting.delete(data.id)
      if ('failed' in data) one?.reject(new Error(data.failed))
      else one?.resolve(data.heard)
    }
    this.worker.onerror = ({ message }) => {
      this.waiting.forEach(({ reject }) => reject(new Error(message)))
      this.waiting.clear()
    }
  }

  ask(id: number, order: AnyOrder, signal: AbortSignal): Promise<Heard> {
    return new Promise((resolve, reject) => {
      const callOff = () => {
        if (!this.waiting.delete(id)) return
        this.tell({ off: id })
        reject(new DOMException('called off', 'AbortError'))
      }
      if (signal.aborted) return reject(new DOMException('called off', 'AbortError'))
      signal.addEventListener('abort', callOff, { once: true })
      this.waiting.set(id, { resolve, reject })
      this.tell({ id, order })
    })
  }

  private tell = (message: ToHearing) => this.worker.postMessage(message)
}

let listeners: Listener[] = []
let asked = 0

/** They begin when something is first asked, and stay with what they have fetched. */
function all(): Listener[] {
  if (!listeners.length) listeners = Array.from({ length: MOST }, () => new Listener())
  return listeners
}

/** The figures of a stretch of a plan, as it would sound; `signal` calls it off. */
export async function hear(order: HearingOrder, signal: AbortSignal): Promise<TapeFigures> {
  const idlest = all().reduce((least, one) => (one.waiting.size < least.waiting.size ? one : least))
  return (await idlest.ask(asked++, order, signal)) as TapeFigures
}

/** What a stretch of a plan looks like: its spectrum and its levels. */
export async function lookAt(order: LookOrder, signal: AbortSignal): Promise<Look> {
  const idlest = all().reduce((least, one) => (one.waiting.size < least.waiting.size ? one : least))
  return (await idlest.ask(asked++, order, signal)) as Look
}

/** All of a plan, a run of frames for each channel: what the file would have, to the bit. */
export async function soundOf(plan: Plan, signal: AbortSignal): Promise<Float32Array[]> {
  const idlest = all().reduce((least, one) => (one.waiting.size < least.waiting.size ? one : least))
  return (await idlest.ask(asked++, { plan, sound: true }, signal)) as Float32Array[]
}

/** Two places of a plan that sound alike; null where none do. */
export async function alikeIn(plan: Plan): Promise<Back | null> {
  const idlest = all().reduce((least, one) => (one.waiting.size < least.waiting.size ? one : least))
  return ((await idlest.ask(asked++, { plan, alike: true }, new AbortController().signal)) as Alike).alike
}

/** How loud all of a plan is; of one that was heard before with other parts, only these are listened to. */
export async function hearAll(plan: Plan, signal: AbortSignal): Promise<PlanLoudness> {
  const heard = await Promise.all(all().map((one, first) => one.ask(asked++, { plan, every: MOST, first }, signal) as Promise<HeardPart[]>))
  const count = heard.reduce((sum, parts) => sum + parts.length, 0)
  return loudnessOfParts(Array.from({ length: count }, (_, part) => heard[part % MOST][Math.floor(part / MOST)]))
}

/** How loud a stretch of a plan is, in LUFS (ITU-R BS.1770, gated); −Infinity for what is silent, or too short to say. */
export async function loudnessOf(plan: Plan, { from, to }: Stretch): Promise<number> {
  const { integrated } = (await hear({ plan, from, to }, new AbortController().signal)).loudness
  return integrated <= SILENCE ? -Infinity : integrated
}
