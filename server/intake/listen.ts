import { parentPort } from 'node:worker_threads'
import { listenHere, type FromListener, type Listener, type ListenerOrder, type ToListener } from './listener'

/** Blocks are called taken several at a time: to wake the other thread costs as much as to listen for a while. */
const TOGETHER = 4
let taken = 0
let listener: Listener
const say = (message: FromListener) => parentPort!.postMessage(message)

/** The thread that listens to a long tape while another reads it; each of these is done at once, in the order of asking. */
export function run(order: ListenerOrder): void {
  listener = listenHere(order)
  parentPort!.on('message', act)
}

function act(message: ToListener): void {
  if ('show' in message) void listener.show().then((shown) => say({ shown }))
  else if ('finish' in message) void listener.finish().then((heard) => say({ heard }))
  else {
    void listener.add(message.samples)
    if (++taken < TOGETHER) return
    say({ taken })
    taken = 0
  }
}
