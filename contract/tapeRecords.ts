import * as yup from 'yup'
import type { MendStep } from '../core/mend/chain'
import type { Treatment } from '../core/mend/treatment'
import { MARK_COLOURS, type Mark, type OffRecord, type Rendition, type Strike, type TapeHead, type TapeLevel } from '../core/tape/tape'
import { realDay } from '../core/sound/waveFile'
import { frames, id } from './ids'
import { suggestion } from './suggestions'
import { language, channels, line, name, sides, truth, type FieldsOf } from './shapes'

const polarity = yup
  .object({ kind: yup.string().oneOf(['polarity']).required() })
  .noUnknown()
  .required()

const hertz = () => yup.number().min(20).max(20_000).required()
const by = () => yup.number().min(-60).max(24).required()
const off = truth()
const MEND_STEPS = {
  lowCut: yup.object({ kind: yup.string().required(), hertz: hertz(), slope: yup.number().oneOf([6, 12, 18, 24]).required(), off }),
  highCut: yup.object({ kind: yup.string().required(), hertz: hertz(), slope: yup.number().oneOf([6, 12, 18, 24]).required(), off }),
  lowShelf: yup.object({ kind: yup.string().required(), hertz: hertz(), dB: by(), off }),
  highShelf: yup.object({ kind: yup.string().required(), hertz: hertz(), dB: by(), off }),
  dip: yup.object({ kind: yup.string().required(), hertz: hertz(), dB: by(), width: yup.number().min(0.02).max(4).required(), off }),
  hum: yup.object({
    kind: yup.string().required(),
    mains: yup.number().oneOf([50, 60]).required(),
    harmonics: yup.number().integer().min(1).max(40).required(),
    off,
  }),
  gain: yup.object({ kind: yup.string().required(), dB: by(), off }),
} satisfies Record<MendStep['kind'], yup.AnyObjectSchema>

const step = yup.lazy((value: unknown): yup.Schema => {
  const kind = (value as Partial<MendStep> | null)?.kind ?? ''
  return Object.hasOwn(MEND_STEPS, kind)
    ? MEND_STEPS[kind as MendStep['kind']].noUnknown().required()
    : yup.mixed().test('kind', 'no such step of mending', () => false)
})
const chain = yup.object({ kind: yup.string().required(), steps: yup.array(step).max(30).required() }).noUnknown()

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
      treatment: yup.lazy((value: unknown): yup.Schema => ((value as Treatment | null)?.kind === 'chain' ? chain.required() : polarity)),
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
