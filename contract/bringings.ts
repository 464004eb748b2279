import * as yup from 'yup'
import { id } from './ids'

/** Where a text that was brought in and its tape do not agree. */
export interface Disagreement {
  /** Where on the tape. */
  at: number
  /** `missing`: the text has it, and nobody says it there. `extra`: it is said there, or something like it, and the text has it not. */
  what: 'missing' | 'extra'
  text: string
}

/** Words of a file on their way onto a tape. */
export interface Bringing {
  tape: string
  /** The file's name. */
  name: string
  state: 'waiting' | 'working' | 'done' | 'failed'
  progress: number
  report: { placed: number; disagreements: Disagreement[] } | null
  error: string
}

export const bringQuery = yup.object({ name: yup.string().trim().min(1).max(200).required(), author: id().required() })

/** The largest file of words that is taken, in bytes. */
export const LARGEST_TEXT = 20_000_000
