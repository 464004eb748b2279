// The beginning of every thread: loads the module it is for, and runs what it is told to once it is
// told. Sources are TypeScript, and a thread does not inherit what reads it.
import { parentPort } from 'node:worker_threads'

const module = process.argv[2]
if (module.endsWith('.ts')) (await import('tsx/esm/api')).register()
const { run } = await import(/* @vite-ignore */ module)
parentPort.once('message', (order) => run(order))
