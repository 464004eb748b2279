import { parentPort } from 'node:worker_threads'
import { listenToPlan, type FiguresOrder, type FiguresReport } from './figures'
import { write, type WriteOrder, type WriteReport } from './write'

/** One thread does all that is done with a package on its way out, so that what was warmed by the last look sends fast. */
export type SendThreadOrder = { write: WriteOrder } | { figures: FiguresOrder }

/** What the thread does. */
export function run(order: SendThreadOrder): Promise<void> {
  const report = (report: WriteReport | FiguresReport) => parentPort!.postMessage(report)
  return 'write' in order ? write(order.write, report) : listenToPlan(order.figures, report)
}
