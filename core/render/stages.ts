import { ceiling } from './ceiling'
import type { Stage, StageOrder } from './stage'

/** Makes a stage that a plan names. */
export const stageOf = ({ dB, between }: StageOrder): Stage => ceiling(dB, between)
