import * as yup from 'yup'
import { chosenBy, name, stretch, truth } from './shapes'

/** The steps that change a transcript, as they cross the wire. */

const voice = () =>
  yup
    .string()
    .max(40)
    .matches(/^[\w-]+$/)

const words = yup
  .array(
    yup
      .object({
        ...stretch('a word'),
        text: yup.string().min(1).max(80).required(),
        voice: voice().optional(),
        what: yup
          .string()
          .oneOf(['filler', 'noise'] as const)
          .optional(),
        sure: yup.number().min(0).max(1).optional(),
        rough: truth(),
        checked: truth(),
      })
      .noUnknown()
      .required(),
  )
  .max(50_000)

const timing = yup.object({ ...stretch('a word'), rough: truth(), checked: truth() }).noUnknown()
const type = yup.string().required()
const at = yup.number().integer().min(0).required()

export const transcriptStep = chosenBy(
  'type',
  {
    words: yup.object({ type, at, out: words.defined(), in: words.defined() }).noUnknown(),
    times: yup
      .object({
        type,
        moves: yup
          .array(yup.object({ at, was: timing.required(), now: timing.required() }).noUnknown().required())
          .max(50_000)
          .required(),
      })
      .noUnknown(),
    voice: yup.object({ type, voice: voice().required(), name: name().optional(), was: name().optional() }).noUnknown(),
  },
  'no such step',
)
