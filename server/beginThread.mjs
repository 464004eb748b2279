// The beginning of every thread: loads the module it is for, and runs what it is told to once it is
// told; one that stays does so again and again, and says each time that it is done. Sources are
// TypeScript, and a thread does not inherit what reads it.
import { parentPort } from 'node:worker_threads'

const [, , module, stays] = process.argv
if (module.endsWith('.ts')) (await import('tsx/esm/api')).register()
const { run } = await import(/* @vite-ignore */ module)
if (stays)
  parentPort.on('message', async (order) => {
    await run(order)
    parentPort.postMessage({ rests: true })
  })
else parentPort.once('message', (order) => run(order))
