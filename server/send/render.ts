import type { MessagePort } from 'node:worker_threads'
import type { Plan } from '../../core/render/plan'
import { renderer } from '../../core/render/render'
import type { Frames } from '../../core/time'
import { MediaStore, SoundFiles } from '../media/store'

/** Frames of a block. */
export const SHARE: Frames = 1 << 17

/** Some blocks of a plan: the one numbered `first`, and every `step`-th after it. */
export interface RenderOrder {
  plan: Plan
  media: string
  channels: number
  first: number
  step: number
}

/** The blocks of an order; each is the caller's to keep. */
export function* rendering({ plan, media, channels, first, step }: RenderOrder): Generator<Float32Array[], undefined> {
  const files = new SoundFiles(new MediaStore(media))
  try {
    const pulled = renderer(plan, files.read)
    for (let at = first * SHARE; at < plan.length; at += step * SHARE) {
      const block = Array.from({ length: channels }, () => new Float32Array(Math.min(SHARE, plan.length - at)))
      pulled.pull(at, block)
      yield block
    }
  } finally {
    files.close()
  }
}

/** What a thread does: hands over one block each time it is asked for another, until all are made or nobody asks any more. */
export const run = ({ order, asks }: { order: RenderOrder; asks: MessagePort }): Promise<void> =>
  new Promise((done, fail) => {
    const made = rendering(order)
    asks.on('close', () => {
      made.return(undefined)
      done()
    })
    asks.on('message', () => {
      try {
        const block = made.next().value
        if (!block) return asks.close()
        asks.postMessage(
          block,
          block.map(({ buffer }) => buffer as ArrayBuffer),
        )
      } catch (error) {
        fail(error)
      }
    })
  })
