import { once } from 'node:events'
import { availableParallelism } from 'node:os'
import { MessageChannel } from 'node:worker_threads'
import type { Plan } from '../../core/render/plan'
import { runThread } from '../thread'
import { rendering, SHARE, type RenderOrder } from './render'

/** So many blocks of each thread may wait to be taken. */
const WAITING = 2
const MOST_THREADS = 4
const REPORT_MS = 250

/** A source of the plan's blocks, in their order; null after the last. */
interface Source {
  next(): Promise<Float32Array[] | null>
  close(): void
}

/**
 * The plan in blocks of floats, one run a channel, to be taken in their order. What is long is rendered by as many threads as the
 * machine has processors, each a block in turn; they come out to the same bits however many there are.
 */
export async function* blocks(
  plan: Plan,
  media: string,
  channels: number,
  report: (progress: number) => void,
): AsyncGenerator<Float32Array[]> {
  const count = Math.min(MOST_THREADS, availableParallelism(), Math.ceil(plan.length / SHARE / WAITING))
  const sources = Array.from({ length: Math.max(1, count) }, (_, first) =>
    count > 1 ? besideUs({ plan, media, channels, first, step: count }) : here({ plan, media, channels, first: 0, step: 1 }),
  )
  let last = 0
  try {
    for (let block = 0; block * SHARE < plan.length; block++) {
      const now = Date.now()
      if (now - last > REPORT_MS) {
        last = now
        report((block * SHARE) / plan.length)
      }
      const made = await sources[block % sources.length].next()
      if (!made) throw new Error('a thread that renders ended too soon')
      yield made
    }
  } finally {
    for (const source of sources) source.close()
  }
}

/** In this thread: for what is over sooner than another thread is begun. */
function here(order: RenderOrder): Source {
  const made = rendering(order)
  return {
    next: async () => made.next().value ?? null,
    close: () => void made.return(undefined),
  }
}

function besideUs(order: RenderOrder): Source {
  const { port1: port, port2: asks } = new MessageChannel()
  const made: Float32Array[][] = []
  let wake = (): void => undefined
  port.on('message', (block: Float32Array[]) => {
    made.push(block)
    wake()
  })
  const closed = once(port, 'close')
  const ended = runThread('render', { order, asks }, () => undefined, Infinity, [asks])
  // what goes wrong is thrown where the next block is asked for
  ended.catch(() => undefined)
  for (let i = 0; i < WAITING; i++) port.postMessage('another')
  return {
    next: async () => {
      while (!made.length && !(await Promise.race([closed, new Promise<void>((done) => (wake = done))])));
      if (!made.length) await ended
      port.postMessage('another')
      return made.shift() ?? null
    },
    close: () => port.close(),
  }
}
