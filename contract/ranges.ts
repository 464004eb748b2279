import * as yup from 'yup'
import { frames } from './ids'

/** A stretch of something that is asked for by range. */
export const rangeQuery = yup.object({ from: frames().required(), to: frames().required() })

/** Longest stretch of sound in one answer, in frames. */
export const LONGEST_RANGE = 48_000 * 30
