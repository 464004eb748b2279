import * as yup from 'yup'
import { id } from './ids'

/** Lines of a story's copy that are looked for on a tape. */
export interface Voicing {
  tape: string
  state: 'waiting' | 'working' | 'done' | 'failed'
  /** 0 to 1; 0 while the tape is still arriving or being transcribed. */
  progress: number
  /** How many of so many lines were found there, and how often they were read in all. */
  report: { placed: number; lines: number; versions: number } | null
  error: string
}

/** Looks for these blocks of a story on a tape, and puts what it finds on them. */
export const voicingOrder = yup
  .object({
    story: id().required(),
    blocks: yup.array(id().required()).required().min(1, 'There is no copy to look for.').max(1000),
    author: id().required(),
  })
  .noUnknown()
