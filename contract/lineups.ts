import * as yup from 'yup'
import { frames, id } from './ids'
import type { Stretch } from '../core/time'

const stretchSchema = yup.object({ from: frames().required(), to: frames().required() }).noUnknown()

/** Recordings of one conversation by several machines, put in step by their sound. */

/** The first one's clock is the one that counts. */
export const lineUpSchema = yup
  .object({
    tapes: yup
      .array(id().required())
      .min(2)
      .max(8)
      .required()
      .test('once', 'each tape is there once', (ids) => new Set(ids).size === ids?.length),
  })
  .noUnknown()

/** How one of them lies on the first one's clock, as it was found. */
export interface Fit {
  tape: string
  belongs: boolean
  /** Why not. */
  reason: string
  /** Its frame `f` sounds at `offset + f * (1 + drift)` of the first. */
  offset: number
  drift: number
  /** Places that were compared, those that agree, and how closely, in seconds. */
  compared: number
  agree: number
  spread: number
  /** How far its speech stands out from its room, in dB. */
  clarity: number
  /** It seems to hold several voices mixed, as a call's own recording does. */
  mixed: boolean
}

/** What each of them would be muted over, on the first one's clock. */
export interface Mutes {
  tape: string
  stretches: Stretch[]
}

/** What becomes of one of them in the joined tape. */
export const partSchema = yup
  .object({
    tape: id().required(),
    /** Whose voice it is; several with one name are one speaker's, and one of them is used. */
    speaker: yup.string().max(200).defined(),
    /** It is the call's own recording, with several voices in it. */
    mixed: yup.boolean().required(),
    used: yup.boolean().required(),
    /** It was not found to belong with the others, and is put beside them as it is, from the same start. */
    byHand: yup.boolean().optional(),
    /** Where it stays as it is, though somebody else is heard more clearly: on the first one's clock. */
    keep: yup.array(stretchSchema.required()).max(5000).optional(),
  })
  .noUnknown()
export type Part = yup.InferType<typeof partSchema>

export const joinSchema = yup
  .object({
    name: yup.string().trim().min(1).max(200).required(),
    /** Sides on which nobody speaks give way to their room. */
    turns: yup.boolean().required(),
    parts: yup.array(partSchema.required()).min(1).max(8).required(),
  })
  .noUnknown()
export type JoinOrder = yup.InferType<typeof joinSchema>

/** What would be muted, asked before it is made. */
export const mutesSchema = joinSchema.omit(['name'])

export const splitSchema = yup.object({ tape: id().required(), side: yup.number().integer().min(0).max(7).required() }).noUnknown()

/** Files of one recording that the recorder split, in their order. */
export const sequenceSchema = yup
  .object({ tapes: yup.array(id().required()).min(2).max(100).required(), name: yup.string().trim().min(1).max(200).required() })
  .noUnknown()

export const moveSchema = yup.object({ piece: id().required(), author: id().required() }).noUnknown()

export interface LineUpInfo {
  id: string
  tapes: string[]
  state: 'comparing' | 'compared' | 'joining' | 'joined' | 'failed' | 'cancelled'
  /** 0 to 1. */
  progress: number
  error: string
  fits: Fit[]
  /** What it is to be, once that was said. */
  joining:
    | (JoinOrder & {
        /** One after the other, and not beside one another. */ sequence?: boolean
        /** Only these channels of it. */ channels?: number[]
      })
    | null
  /** The tape that it became, or is becoming. */
  tape: string | null
}

/** A tape that another was made of, and how its frames lie on it. */
export interface MadeOf {
  lineUp: string
  tape: string
  name: string
  offset: number
  drift: number
  used: boolean
  mixed: boolean
}
