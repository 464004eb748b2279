import { Worker } from 'node:worker_threads'

/**
 * Runs a thread to its end, handing on what it reports. Resolves when it ends well, rejects with
 * what it threw. Where `report` gives false, or gives a promise of it, the thread is stopped and
 * the promise resolves to false.
 */
export function runThread<T>(module: URL, data: unknown, report: (message: T) => void | boolean | Promise<void | boolean>): Promise<boolean> {
  return new Promise((resolve, reject) => {
    // a thread does not inherit the loader that reads TypeScript: it registers its own
    const worker = new Worker(new URL('./thread.mjs', import.meta.url), { workerData: data, argv: [module.href] })
    let stopped = false
    let handled = Promise.resolve()
    worker.on('message', (message: T) => {
      handled = handled.then(async () => {
        if (stopped || (await report(message)) !== false) return
        stopped = true
        await worker.terminate()
      })
      handled.catch(reject)
    })
    worker.on('error', reject)
    worker.on('exit', () => handled.then(() => resolve(!stopped), reject))
  })
}
