import * as yup from 'yup'
import { realDay } from '../core/sound/waveFile'
import { frames, id } from './ids'
import { copy, name } from './shapes'

/** The records that a story's document is made of, each kind with its schema. */

const block = yup
  .object({
    id: id().required(),
    kind: yup
      .string()
      .oneOf(['intro', 'copy', 'actuality'] as const)
      .required(),
    order: yup
      .string()
      .max(200)
      .matches(/^[0-9A-Za-z]+$/)
      .required(),
    aside: yup.boolean().required(),
    text: copy().defined(),
    reader: name().defined(),
    pace: yup.number().min(60).max(400).required(),
    piece: id().nullable().defined(),
  })
  .noUnknown()

/** A day of the calendar and a time of day, with the zone in which it was set; older ones have none. */
const isAirTime = (value: string): boolean =>
  /^\d{4}-\d\d-\d\dT([01]\d|2[0-3]):[0-5]\d([+-](0\d|1[0-4]):[0-5]\d)?$/.test(value) && realDay(value.slice(0, 10)) !== ''

export const storyRecords = {
  story: yup
    .object({
      id: yup.string().oneOf(['story']).required(),
      kind: yup.string().required(),
      slug: name().defined(),
      airs: yup
        .string()
        .test('airs', 'an air time reads 2026-11-25T17:52+00:00', (value) => !value || isAirTime(value))
        .defined(),
      slot: frames().required(),
      client: name().defined(),
      soc: copy().defined(),
      terms: yup
        .array(
          yup
            .object({ text: yup.string().trim().min(1).max(80).required(), spoken: name().defined() })
            .noUnknown()
            .required(),
        )
        .max(500)
        .optional(),
    })
    .noUnknown(),
  intro: block,
  copy: block,
  actuality: block,
}

/** The properties that can be written in, letter by letter. */
export const STORY_TEXTS = ['text', 'soc']
