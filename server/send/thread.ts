import { parentPort } from 'node:worker_threads'
import { listenToPlan, type FiguresOrder, type FiguresReport } from './figures'
import { hearForAnother, type HearOrder, type HearReport } from './heardWhileMade'
import { write, type WriteOrder, type WriteReport } from './write'

/** One thread does all that is done with a package on its way out, so that what was warmed by the last look sends fast. */
export type SendThreadOrder = { write: WriteOrder } | { figures: FiguresOrder } | { hear: HearOrder }

/** What the thread does. */
export function run(order: SendThreadOrder): Promise<void> {
  const report = (report: WriteReport | FiguresReport | HearReport) => parentPort!.postMessage(report)
  if ('write' in order) return write(order.write, report)
  if ('hear' in order) return hearForAnother(order.hear, report)
  return listenToPlan(order.figures, report)
}
