import type { Plan } from '../../core/render/plan'
import { renderer } from '../../core/render/render'
import type { SoundFiles } from '../media/store'

const BLOCK = 1 << 15
const REPORT_MS = 150

/** The plan in blocks of floats, one run a channel. The runs are used again for the next block. */
export function* blocks(plan: Plan, files: SoundFiles, channels: number, report: (progress: number) => void): Generator<Float32Array[]> {
  const pulled = renderer(plan, files.read)
  let out = Array.from({ length: channels }, () => new Float32Array(BLOCK))
  let last = 0
  for (let at = 0; at < plan.length; at += BLOCK) {
    const count = Math.min(BLOCK, plan.length - at)
    if (count < BLOCK) out = out.map((channel) => channel.subarray(0, count))
    pulled.pull(at, out)
    yield out
    const now = Date.now()
    if (now - last > REPORT_MS) {
      last = now
      report(at / plan.length)
    }
  }
}
