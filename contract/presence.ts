import * as yup from 'yup'
import { id } from './ids'

/** Somebody has a story, a tape or a piece open; told every few seconds, and to nobody but those who listen at that moment. */
export const presenceSchema = yup
  .object({
    document: id().required(),
    /** Who: an id that a browser made for itself, known for nothing else. */
    who: id().required(),
    /** What that browser was told to call them; empty where it was not. */
    name: yup.string().max(60).defined(),
    /** The block that they are in, if it is a story. */
    line: id().nullable().defined(),
    /** They have left. */
    gone: yup.boolean().optional(),
  })
  .noUnknown()
export type Presence = yup.InferType<typeof presenceSchema>
