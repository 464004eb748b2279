import * as yup from 'yup'
import { MARK_COLOURS, type Mark, type OffRecord, type Rendition, type Strike, type TapeHead, type TapeLevel } from '../core/tape/tape'
import { realDay } from '../core/sound/waveFile'
import { frames, id } from './ids'
import { suggestion } from './suggestions'
import { language, channels, line, name, sides, type FieldsOf } from './shapes'

/** The records that a tape's document is made of, each kind with its schema. */
export const tapeRecords = {
  tape: yup
    .object({
      id: yup.string().oneOf(['tape']).required(),
      kind: yup.string().required(),
      name: name().defined(),
      speaker: name().defined(),
      role: name().defined(),
      day: yup
        .string()
        .test('day', 'a day reads 2026-11-25', (value) => !value || realDay(value) === value)
        .defined(),
      tags: yup.array(yup.string().trim().min(1).max(60).required()).max(50).required(),
      stories: yup.array(id().required()).max(100).required(),
      sides: sides().required(),
      language: language().optional(),
    } satisfies FieldsOf<TapeHead>)
    .noUnknown(),
  strike: yup
    .object({
      id: id().required(),
      kind: yup.string().required(),
      from: frames().required(),
      to: frames().required(),
    } satisfies FieldsOf<Strike>)
    .noUnknown(),
  off: yup
    .object({
      id: id().required(),
      kind: yup.string().required(),
      from: frames().required(),
      to: frames().required(),
    } satisfies FieldsOf<OffRecord>)
    .noUnknown(),
  level: yup
    .object({ id: id().required(), kind: yup.string().required(), points: line().max(20_000).required() } satisfies FieldsOf<TapeLevel>)
    .noUnknown(),
  suggestion,
  rendition: yup
    .object({
      id: id().required(),
      kind: yup.string().required(),
      channels: channels().required(),
      name: name().defined(),
      treatment: yup
        .object({ kind: yup.string().oneOf(['polarity']).required() })
        .noUnknown()
        .required(),
    } satisfies FieldsOf<Rendition>)
    .noUnknown(),
  mark: yup
    .object({
      id: id().required(),
      kind: yup.string().required(),
      at: frames().required(),
      text: name().defined(),
      colour: yup.string().oneOf(MARK_COLOURS).optional(),
      star: yup.boolean().optional(),
    } satisfies FieldsOf<Mark>)
    .noUnknown(),
}
