import { Ear, type TapeFigures } from '../../core/hearing/ear'
import type { Plan } from '../../core/render/plan'
import { renderer } from '../../core/render/render'
import type { Frames } from '../../core/time'
import { SoundCache } from './soundCache'

/** Listens to a stretch of a plan as it would sound, and gives its figures. */
export interface HearingOrder {
  plan: Plan
  from: Frames
  to: Frames
}

const BLOCK = 1 << 15

self.onmessage = async ({ data: { plan, from, to } }: MessageEvent<HearingOrder>) => {
  const cache = new SoundCache()
  const pulled = renderer(plan, cache.read)
  const ear = new Ear(plan.channels, false)
  for (let at = from; at < to; at += BLOCK) {
    const end = Math.min(to, at + BLOCK)
    await Promise.all(pulled.needs(at, end).map((need) => cache.ensure(need.sound, need.channel, need.from, need.to)))
    const out = Array.from({ length: plan.channels }, () => new Float32Array(end - at))
    pulled.pull(at, out)
    ear.add(out)
  }
  postMessage(ear.finish() satisfies TapeFigures)
}
