import { Worker, type ResourceLimits, type TransferListItem } from 'node:worker_threads'
import { THREADS, type ThreadName } from './threads'

/** Threads that nobody needs now: begun before, or done and still there. */
const spares = new Map<ThreadName, Worker[]>()

/** What is asked for again and again is faster where it was done before: these stay for a while. */
const STAYS: ReadonlySet<ThreadName> = new Set(['render', 'send'])
const STAYS_MS = 5 * 60_000
/** So many of one kind; what was begun beside them ends when it is done. */
const MOST_STAYING = 2

/** Run from its sources, a module lies where it is written; built, all lie beside each other. */
const BUILT = import.meta.url.endsWith('.js')

/** Memory that a thread may use, in megabytes, where what it reads came from outside. */
const LIMITS: Partial<Record<ThreadName, ResourceLimits>> = { readWords: { maxOldGenerationSizeMb: 384, maxYoungGenerationSizeMb: 64 } }

/** A thread that does what it is for once it is told to. */
export const beginThread = (name: ThreadName): Worker =>
  new Worker(new URL(BUILT ? './beginThread.js' : './beginThread.mjs', import.meta.url), {
    argv: [new URL(BUILT ? `./${name}.js` : `./${THREADS[name]}.ts`, import.meta.url).href, ...(STAYS.has(name) ? ['stays'] : [])],
    resourceLimits: LIMITS[name],
  })

/** Has a thread at hand from now on. */
export const keepAtHand = (name: ThreadName): void => setBeside(name, beginThread(name))

function setBeside(name: ThreadName, worker: Worker): void {
  const others = spares.get(name) ?? []
  worker.unref()
  worker.on('error', () => void takeSpare(name, worker))
  spares.set(name, [...others, worker])
}

/** A thread that is at hand, or this one of them; it is no spare from then on. */
function takeSpare(name: ThreadName, one?: Worker): Worker | undefined {
  const all = spares.get(name) ?? []
  const worker = one ?? all.at(-1)
  spares.set(
    name,
    all.filter((other) => other !== worker),
  )
  return worker
}

/** It is done: it stays for a while, unless enough do. */
function rest(name: ThreadName, worker: Worker): void {
  // its own listeners, by which it hears of the thread, stay
  for (const event of ['message', 'error', 'exit']) worker.removeAllListeners(event)
  if ((spares.get(name)?.length ?? 0) >= MOST_STAYING) return void worker.terminate()
  setBeside(name, worker)
  setTimeout(() => {
    if (!spares.get(name)?.includes(worker)) return
    takeSpare(name, worker)
    void worker.terminate()
  }, STAYS_MS).unref()
}

/**
 * Runs a thread to its end, handing on what it reports. Resolves when it ends
 * well, rejects with what it threw. Where `report` gives false, or gives a promise of it, the thread
 * is stopped and the promise resolves to false. One that takes longer than `limitMs` is stopped, and the promise rejects.
 * `transfer`: what of the order goes over to it.
 */
export function runThread<T, News = never>(
  name: ThreadName,
  order: unknown,
  report: (message: T, tell: (news: News) => void) => void | boolean | Promise<void | boolean>,
  limitMs = Infinity,
  transfer: readonly TransferListItem[] = [],
): Promise<boolean> {
  return new Promise((resolve, reject) => {
    const spare = takeSpare(name)
    const worker = spare ?? beginThread(name)
    worker.ref()
    let stopped = false
    const late = Number.isFinite(limitMs)
      ? setTimeout(() => void worker.terminate().then(() => reject(new Error('it took too long'))), limitMs)
      : undefined
    let handled = Promise.resolve()
    const ended = () => {
      clearTimeout(late)
      handled.then(() => resolve(!stopped), reject)
    }
    worker.on('message', (message: T | Rests) => {
      if (isRests(message)) {
        // one that is being stopped does not come back, nor one whose news could not be taken
        handled.then(
          () => !stopped && rest(name, worker),
          () => void worker.terminate(),
        )
        return ended()
      }
      handled = handled.then(async () => {
        if (stopped || (await report(message, (news) => worker.postMessage(news))) !== false) return
        stopped = true
        await worker.terminate()
      })
      handled.catch(reject)
    })
    worker.on('error', reject)
    worker.on('exit', () => {
      if (spare && !STAYS.has(name)) keepAtHand(name)
      ended()
    })
    worker.postMessage(order, transfer)
  })
}

/** What a thread that stays says when it is done. */
interface Rests {
  rests: true
}

const isRests = (message: unknown): message is Rests => typeof message === 'object' && message !== null && 'rests' in message
