import { SILENCE, type TapeFigures } from '../../core/hearing/ear'
import type { Plan } from '../../core/render/plan'
import type { Stretch } from '../../core/time'
import HearingWorker from './hearing.worker.ts?worker'
import type { HearingOrder } from './hearing.worker'

/** The figures of a stretch of a plan, as it would sound; `signal` calls it off. */
export function hear(order: HearingOrder, signal: AbortSignal): Promise<TapeFigures> {
  return new Promise((resolve, reject) => {
    const worker = new HearingWorker()
    const stop = () => {
      worker.terminate()
      reject(new DOMException('called off', 'AbortError'))
    }
    signal.addEventListener('abort', stop, { once: true })
    worker.onmessage = ({ data }: MessageEvent<TapeFigures>) => {
      worker.terminate()
      resolve(data)
    }
    worker.onerror = (event) => reject(new Error(event.message))
    worker.postMessage(order)
  })
}

/** How loud a stretch of a plan is, in LUFS (ITU-R BS.1770, gated); −Infinity for what is silent, or too short to say. */
export async function loudnessOf(plan: Plan, { from, to }: Stretch): Promise<number> {
  const { integrated } = (await hear({ plan, from, to }, new AbortController().signal)).loudness
  return integrated <= SILENCE ? -Infinity : integrated
}
