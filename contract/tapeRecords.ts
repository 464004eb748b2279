import * as yup from 'yup'
import type { MendStep } from '../core/mend/chain'
import { THIRDS } from '../core/mend/curve'
import { NOISE_BANDS } from '../core/mend/noise'
import type { Treatment } from '../core/mend/treatment'
import { MARK_COLOURS, type Mark, type OffRecord, type Rendition, type Strike, type TapeHead, type TapeLevel } from '../core/tape/tape'
import { realDay } from '../core/sound/waveFile'
import { frames, id } from './ids'
import { suggestion } from './suggestions'
import { language, channels, hertz, line, name, sides, truth, type FieldsOf } from './shapes'

const polarity = yup
  .object({ kind: yup.string().oneOf(['polarity']).required() })
  .noUnknown()
  .required()

const outside = yup
  .object({ kind: yup.string().oneOf(['outside']).required(), file: name().defined() })
  .noUnknown()
  .required()

const by = () => yup.number().min(-60).max(24).required()
const off = truth()
/** What every step has. */
const step = <T extends yup.ObjectShape>(fields: T) =>
  yup.object({
    kind: yup.string().required(),
    ...fields,
    off,
    blend: yup.number().min(0).max(1).optional(),
    within: yup
      .object({ from: frames().required(), to: frames().required() })
      .noUnknown()
      .test('forwards', 'it ends behind its beginning', (value?: { from?: number; to?: number }) => !value || value.from! < value.to!)
      .optional()
      .default(undefined),
  })
const dBFS = () => yup.number().min(-120).max(6).required()
const less = (most: number) => yup.number().min(0).max(most).required()
const slope = () => yup.number().oneOf([6, 12, 18, 24]).required()
const MEND_STEPS = {
  lowCut: step({ hertz: hertz().required(), slope: slope() }),
  highCut: step({ hertz: hertz().required(), slope: slope() }),
  lowShelf: step({ hertz: hertz().required(), dB: by() }),
  highShelf: step({ hertz: hertz().required(), dB: by() }),
  dip: step({ hertz: hertz().required(), dB: by(), width: yup.number().min(0.02).max(4).required() }),
  hum: step({ mains: yup.number().oneOf([50, 60]).required(), harmonics: yup.number().integer().min(1).max(40).required() }),
  noise: step({ dB: less(40), learnt: yup.array(yup.number().min(-200).max(200).required()).length(NOISE_BANDS).optional() }),
  movingNoise: step({}),
  clicks: step({ over: yup.number().min(12).max(60).required() }),
  clipping: step({ at: yup.number().min(-40).max(6).required() }),
  pops: step({ over: yup.number().min(3).max(40).required() }),
  deEsser: step({ hertz: hertz().required(), dB: less(24), from: dBFS() }),
  reverberation: step({ seconds: yup.number().min(0.1).max(2).required() }),
  expander: step({ dB: less(24), from: dBFS() }),
  level: step({
    average: dBFS(),
    ratio: yup.number().min(1).max(20).required(),
    least: dBFS(),
    passes: yup.number().oneOf([1, 2]).required(),
  }),
  curve: step({ thirds: yup.array(yup.number().min(-24).max(24).required()).length(THIRDS).required() }),
  telephone: step({ low: hertz().required(), high: hertz().required() }),
  addedRoom: step({ seconds: yup.number().min(0.1).max(0.75).required(), dB: yup.number().min(-40).max(6).required() }),
  gain: step({ dB: by() }),
} satisfies Record<MendStep['kind'], yup.AnyObjectSchema>

const anyStep = yup.lazy((value: unknown): yup.Schema => {
  const kind = (value as Partial<MendStep> | null)?.kind ?? ''
  return Object.hasOwn(MEND_STEPS, kind)
    ? MEND_STEPS[kind as MendStep['kind']].noUnknown().required()
    : yup.mixed().test('kind', 'no such step of mending', () => false)
})
/** The steps of a treatment. */
export const mendSteps = () => yup.array(anyStep).max(30)
const chain = yup.object({ kind: yup.string().required(), steps: mendSteps().required() }).noUnknown()

const TREATMENTS: Record<string, yup.Schema> = { polarity, outside, chain: chain.required() }

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
      treatment: yup.lazy((value: unknown): yup.Schema => TREATMENTS[(value as Treatment | null)?.kind ?? 'polarity'] ?? polarity),
      piece: id().optional(),
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
