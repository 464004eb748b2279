import * as yup from 'yup'
import { PLACES, type BoardHead, type LiveClip } from '../core/live/board'
import { toFrames } from '../core/time'
import { frames, id } from './ids'
import { name, truth, type FieldsOf } from './shapes'

/** Boards of live clips, and what was played on them. */

export const boardRecords = {
  board: yup
    .object({
      id: yup
        .string()
        .oneOf(['board'] as const)
        .required(),
      kind: yup
        .string()
        .oneOf(['board'] as const)
        .required(),
      name: name().defined(),
      level: yup.number().min(-40).max(-9).optional(),
    } satisfies FieldsOf<BoardHead>)
    .noUnknown(),
  clip: yup
    .object({
      id: id().required(),
      kind: yup
        .string()
        .oneOf(['clip'] as const)
        .required(),
      piece: id().required(),
      key: yup.string().oneOf(PLACES).required(),
      loop: truth(),
      over: truth(),
      fade: frames().max(toFrames(10)).optional(),
    } satisfies FieldsOf<LiveClip>)
    .noUnknown(),
}

export interface BoardRow {
  id: string
  name: string
  clips: number
  aside: boolean
}

/** What was heard on air, kept by the browser that played it until the server has it. */
export interface Play {
  id: string
  board: string
  piece: string
  slug: string
  /** When it began, ISO 8601. */
  at: string
  /** For how long it was heard, in seconds. */
  seconds: number
  /** It was stopped before its end. */
  stopped: boolean
  /** By whom, as that browser is called. */
  by: string
}

export const playSchema = yup
  .object({
    id: id().required(),
    board: id().required(),
    piece: id().required(),
    slug: name().defined(),
    at: yup
      .string()
      .matches(/^\d{4}-\d\d-\d\dT[\d:.]+Z$/, 'that is no time')
      .required(),
    seconds: yup.number().min(0).max(86_400).required(),
    stopped: yup.boolean().required(),
    by: yup.string().max(100).defined(),
  } satisfies FieldsOf<Play>)
  .noUnknown()

export const playsOrder = yup.array().of(playSchema.required()).max(500).required()
