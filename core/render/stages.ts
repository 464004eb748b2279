import { ceiling } from './ceiling'
import { compressor } from './compressor'
import type { Stage, StageOrder } from './stage'

/** Makes a stage that a plan names. */
export const stageOf = (order: StageOrder): Stage =>
  order.kind === 'ceiling' ? ceiling(order.dB, order.between) : compressor(order.dB, order.ratio)
