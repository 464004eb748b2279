import * as yup from 'yup'
import { FORMATS } from '../core/transcript/write'
import { frames } from './ids'

/** The open formats that words are written out in; `docx` is Word's. */
export const TRANSCRIPT_FORMATS = [...FORMATS, 'docx'] as const
export type TranscriptFormat = (typeof TRANSCRIPT_FORMATS)[number]

export const transcriptQuery = yup.object({
  as: yup.string().oneOf(TRANSCRIPT_FORMATS).required(),
  /** A stretch of a tape; all of it where it is left out. */
  from: frames().default(0),
  to: frames().default(48_000 * 60 * 60 * 100),
})
