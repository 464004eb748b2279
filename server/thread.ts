import { Worker, type ResourceLimits } from 'node:worker_threads'
import { THREADS, type ThreadName } from './threads'

/** Threads that were begun before anybody needed them. */
const spares = new Map<ThreadName, Worker>()

/** Run from its sources, a module lies where it is written; built, all lie beside each other. */
const BUILT = import.meta.url.endsWith('.js')

/** Memory that a thread may use, in megabytes, where what it reads came from outside. */
const LIMITS: Partial<Record<ThreadName, ResourceLimits>> = { readWords: { maxOldGenerationSizeMb: 384, maxYoungGenerationSizeMb: 64 } }

/** A thread that does what it is for once it is told to. */
export const beginThread = (name: ThreadName): Worker =>
  new Worker(new URL(BUILT ? './beginThread.js' : './beginThread.mjs', import.meta.url), {
    argv: [new URL(BUILT ? `./${name}.js` : `./${THREADS[name]}.ts`, import.meta.url).href],
    resourceLimits: LIMITS[name],
  })

/** Has a thread at hand from now on. */
export function keepAtHand(name: ThreadName): void {
  const worker = beginThread(name)
  worker.unref()
  worker.on('error', () => spares.delete(name))
  spares.set(name, worker)
}

/**
 * Runs a thread to its end, handing on what it reports. Resolves when it ends
 * well, rejects with what it threw. Where `report` gives false, or gives a promise of it, the thread
 * is stopped and the promise resolves to false. One that takes longer than `limitMs` is stopped, and the promise rejects.
 */
export function runThread<T, News = never>(
  name: ThreadName,
  order: unknown,
  report: (message: T, tell: (news: News) => void) => void | boolean | Promise<void | boolean>,
  limitMs = Infinity,
): Promise<boolean> {
  return new Promise((resolve, reject) => {
    const spare = spares.get(name)
    spares.delete(name)
    const worker = spare ?? beginThread(name)
    worker.ref()
    let stopped = false
    const late = Number.isFinite(limitMs)
      ? setTimeout(() => void worker.terminate().then(() => reject(new Error('it took too long'))), limitMs)
      : undefined
    let handled = Promise.resolve()
    worker.on('message', (message: T) => {
      handled = handled.then(async () => {
        if (stopped || (await report(message, (news) => worker.postMessage(news))) !== false) return
        stopped = true
        await worker.terminate()
      })
      handled.catch(reject)
    })
    worker.on('error', reject)
    worker.on('exit', () => {
      clearTimeout(late)
      if (spare) keepAtHand(name)
      handled.then(() => resolve(!stopped), reject)
    })
    worker.postMessage(order)
  })
}
