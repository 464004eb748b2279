import * as yup from 'yup'
import type { FoundBy, Twin } from '../core/patch/twins'
import { frames } from './ids'

/** What may be laid over a bad spot of a tape: the same, said elsewhere on it by the same voice. */

/** No spot is longer, in frames. */
const LONGEST_SPOT = 48_000 * 4

export const spotSchema = yup
  .object({
    by: yup
      .string()
      .oneOf(['words', 'sound'] as const)
      .required(),
    /** The renditions that sound where the spot lies, in place of what was recorded. */
    heard: yup
      .string()
      .matches(/^[0-9a-f,-]*$/)
      .optional(),
    from: frames().required(),
    to: frames()
      .required()
      .when('from', ([from], schema) =>
        schema.min(from + 48, 'a spot has a length').max(from + LONGEST_SPOT, 'That is too long to be patched: select a word or two.'),
      ),
  })
  .noUnknown()

export type { FoundBy, Twin }
