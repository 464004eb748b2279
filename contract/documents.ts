import * as yup from 'yup'
import type { Actuality, ActualityStep } from '../core/edits/actuality'
import type { StoryDocument, StoryStep } from '../core/page/story'
import { MARK_COLOURS, type TapeDocument, type TapeStep } from '../core/tape/tape'
import { realDay } from '../core/tape/waveFile'
import type { Transcript, TranscriptStep } from '../core/transcript/transcript'
import { frames, id, revision } from './ids'
import { SENT_AT_ONCE } from './limits'

/** Documents and the steps that change them, as they cross the wire. */

export type Body = Actuality | StoryDocument | TapeDocument | Transcript
export type Kind = Body['kind']
export type AnyStep = ActualityStep | StoryStep | TapeStep | TranscriptStep

/** What an object itself holds under a name that came from outside; never what it inherits. */
const own = <T>(object: Record<string, T>, key: string | undefined): T | undefined =>
  key !== undefined && Object.hasOwn(object, key) ? object[key] : undefined

const name = () => yup.string().max(200)
const copy = () => yup.string().max(20_000)

const truth = () =>
  yup
    .boolean()
    .oneOf([true] as const)
    .optional()
const slipped = () => yup.number().integer().min(-480_000).max(480_000)
const dB = () => yup.number().min(-60).max(24)
const shape = () => yup.string().oneOf(['power', 'gain'] as const)

const gain = () => yup.number().min(-60).max(60).optional()
const line = () => yup.array(yup.object({ at: frames().required(), dB: dB().required() }).noUnknown().required())

const joinFields = {
  fade: frames().required().max(48_000),
  shape: shape().required(),
  origin: yup
    .string()
    .oneOf(['hand', 'split', 'paint'] as const)
    .required(),
  heard: yup.boolean().required(),
  asked: yup
    .object({ left: frames().required(), right: frames().required(), why: yup.string().defined().max(200) })
    .noUnknown()
    .default(undefined)
    .optional(),
}

/** Joins may remember spans that have joins of their own; deeper than this nobody cuts by hand. */
const DEEPEST = 40

/** A join whose memory is no deeper than `depth`. */
const joinWithin = (depth: number): yup.ObjectSchema<object> =>
  yup
    .object({
      ...joinFields,
      took: yup.lazy((value: unknown) => {
        if (value === undefined) return yup.mixed().optional()
        if (depth === 0) return yup.mixed().test('deep', 'that was cut too often at one place', () => false)
        return yup
          .object({
            spans: yup
              .array(spanWithin(depth - 1).required())
              .max(5000)
              .defined(),
            after: joinWithin(depth - 1)
              .nullable()
              .defined()
              .default(undefined),
          })
          .noUnknown()
          .required()
      }),
    })
    .noUnknown()
const join = joinWithin(DEEPEST)

const spanFields = {
  tape: id().required(),
  from: frames().required(),
  to: frames()
    .required()
    .when('from', ([from], schema) => schema.moreThan(from, 'a span ends after it begins')),
  sound: yup
    .string()
    .oneOf(['tape', 'tone', 'room'] as const)
    .required(),
  level: line().max(1000).optional(),
  gain: gain(),
  patch: yup
    .object({
      tape: id().required(),
      from: frames().required(),
      to: frames()
        .required()
        .when('from', ([from], schema) => schema.moreThan(from)),
      laid: yup
        .object({
          from: frames().required(),
          to: frames()
            .required()
            .when('from', ([from], schema) => schema.moreThan(from)),
        })
        .noUnknown()
        .required(),
      own: truth(),
      held: truth(),
      room: truth(),
      under: yup.lazy((value: unknown) =>
        value === undefined
          ? yup.mixed().optional()
          : yup
              .array(spanWithin(DEEPEST / 2).required())
              .min(1)
              .max(2000)
              .required(),
      ),
    })
    .noUnknown()
    .default(undefined)
    .optional(),
  mute: truth(),
  mutes: yup.array(yup.boolean().nullable().defined()).max(8).optional(),
  slip: yup.array(slipped().required()).max(8).optional(),
  levels: yup.array(dB().required()).max(8).optional(),
}

const spanWithin = (depth: number): yup.ObjectSchema<object> =>
  yup
    .object({
      ...spanFields,
      join: yup.lazy((value: unknown) => (value === undefined ? yup.mixed().optional() : joinWithin(depth).required())),
    })
    .noUnknown()
const span = spanWithin(DEEPEST)

const spans = yup.array(span.required()).max(20_000)

const side = yup
  .object({
    name: name().defined(),
    channels: yup.array(yup.number().integer().min(0).max(7).required()).min(1).max(2).required(),
    level: yup.number().min(-60).max(40).optional(),
    flip: yup.boolean().optional(),
    slip: slipped().optional(),
    hush: yup
      .array(yup.object({ from: frames().required(), to: frames().required() }).noUnknown().required())
      .max(20_000)
      .optional(),
  })
  .noUnknown()
const sides = () => yup.array(side.required()).min(1).max(8)

/** The sides of several tapes, by the tape's id. */
const sidesByTape = yup.lazy((value: unknown) =>
  yup
    .object(Object.fromEntries(Object.keys((value as object | undefined) ?? {}).map((tape) => [tape, sides().required()])))
    .test('ids', 'tapes are named by their ids', (named) => Object.keys(named ?? {}).every((tape) => id().isValidSync(tape)))
    .optional()
    .default(undefined),
)

const endFade = () =>
  yup
    .object({
      length: frames()
        .required()
        .max(48_000 * 60),
      shape: shape().required(),
    })
    .noUnknown()
    .default(undefined)
    .optional()

const endCut = () =>
  yup
    .object({ spans: spans.required().min(1), handle: frames().required() })
    .noUnknown()
    .default(undefined)
    .optional()

const moment = () => yup.string().required().max(40)

/** What is kept beside a piece. */
const keptRecords = {
  offcut: yup.object({ id: id().required(), kind: yup.string().required(), at: moment(), spans: spans.required().min(1) }).noUnknown(),
  version: yup
    .object({
      id: id().required(),
      kind: yup.string().required(),
      name: name().defined(),
      at: moment(),
      spans: spans.required().min(1),
      head: frames().required(),
      tail: frames().required(),
      sides: sidesByTape,
      gain: gain(),
      fadeIn: endFade(),
      fadeOut: endFade(),
      cutHead: endCut(),
      cutTail: endCut(),
    })
    .noUnknown(),
}

/** A record of one of several kinds, each with a schema. */
const recordOf = (schemas: Record<string, yup.ObjectSchema<object>>) =>
  yup.lazy(
    (value: { kind?: string } | undefined) =>
      own<yup.Schema>(schemas, value?.kind) ?? yup.mixed().test('known', 'no such kind of record', () => false),
  )

const kept = yup.lazy((value: unknown) =>
  yup
    .object(Object.fromEntries(Object.keys((value as object | undefined) ?? {}).map((key) => [key, recordOf(keptRecords)])))
    .test('ids', 'what is kept is filed under another id', (all) =>
      Object.entries((all ?? {}) as Record<string, { id?: string }>).every(([key, one]) => one?.id === key),
    )
    .optional()
    .default(undefined),
)

export const actualitySchema = yup
  .object({
    kind: yup
      .string()
      .oneOf(['actuality'] as const)
      .required(),
    slug: name().defined(),
    speaker: name().defined(),
    role: name().defined(),
    story: id().nullable().defined(),
    spans: spans.required().min(1),
    head: frames().required(),
    tail: frames().required(),
    sides: sidesByTape,
    gain: gain(),
    fadeIn: endFade(),
    fadeOut: endFade(),
    kept,
    cutHead: endCut(),
    cutTail: endCut(),
  })
  .noUnknown()

const settable = {
  slug: name().defined(),
  speaker: name().defined(),
  role: name().defined(),
  story: id().nullable().defined(),
  head: frames().required(),
  tail: frames().required(),
  sides: sidesByTape,
  gain: gain(),
  fadeIn: endFade(),
  fadeOut: endFade(),
  cutHead: endCut(),
  cutTail: endCut(),
}

/** Something painted over a stretch: each kind has values of its own. */
const paintPart = yup.lazy((part: { what?: string } | undefined) => {
  const place = {
    from: frames().required(),
    to: frames()
      .required()
      .when('from', ([from], schema) => schema.moreThan(from, 'a stretch ends after it begins')),
  }
  const side = yup.number().integer().min(0).max(7).required()
  if (part?.what === 'mute')
    return yup
      .object({ ...place, what: yup.string().required(), value: yup.boolean().nullable().defined().notOneOf([false]) })
      .noUnknown()
      .required()
  if (part?.what === 'side')
    return yup
      .object({ ...place, what: yup.string().required(), side, value: yup.boolean().nullable().defined() })
      .noUnknown()
      .required()
  if (part?.what === 'level')
    return yup
      .object({ ...place, what: yup.string().oneOf(['level']).required(), side, value: dB().required() })
      .noUnknown()
      .required()
  if (part?.what === 'line') {
    const offset = yup.number().integer().required()
    const points = yup
      .array(yup.object({ at: offset, dB: dB().required() }).noUnknown().required())
      .max(1000)
      .defined()
    const over = yup.object({ from: offset, to: offset }).noUnknown().nullable().defined().default(undefined)
    return yup
      .object({ ...place, what: yup.string().required(), over, points })
      .noUnknown()
      .required()
  }
  return yup
    .object({ ...place, what: yup.string().oneOf(['slip']).required(), side, value: slipped().required() })
    .noUnknown()
    .required()
})

/** A schema for the steps of a bag of records, from the schema of each kind of record. */
function recordStep(schemas: Record<string, yup.ObjectSchema<object>>) {
  const record = recordOf(schemas)
  const fields = Object.assign({}, ...Object.values(schemas).map((schema) => schema.fields)) as Record<string, yup.Schema>
  return yup.lazy((step: { type?: string; key?: string } | undefined) => {
    const type = yup.string().oneOf(['put', 'drop', 'set']).required()
    if (step?.type === 'put') return yup.object({ type, record }).noUnknown()
    if (step?.type === 'drop') return yup.object({ type, id: id().required() }).noUnknown()
    if (step?.type === 'write') {
      const text = yup.string().max(20_000)
      const part = yup.lazy((value: unknown) =>
        typeof value === 'number'
          ? yup.number().integer().min(1).required()
          : yup
              .object(Object.hasOwn((value ?? {}) as object, 'put') ? { put: text.required() } : { cut: text.required() })
              .noUnknown()
              .required(),
      )
      return yup
        .object({
          type: yup.string().required(),
          id: yup.string().max(36).required(),
          key: yup.string().oneOf(['text', 'soc']).required(),
          change: yup.array(part).max(2000).defined(),
        })
        .noUnknown()
    }
    const key = yup
      .string()
      .required()
      .oneOf(Object.keys(fields).filter((field) => field !== 'id' && field !== 'kind'))
    return yup.object({ type, id: yup.string().max(36).required(), key, value: own(fields, step?.key) ?? yup.mixed() }).noUnknown()
  })
}

const keptStep = recordStep(keptRecords)

const actualityStep = yup.lazy((step: { type?: string; key?: string } | undefined) => {
  if (step?.type === 'replace')
    return yup
      .object({
        type: yup.string().required(),
        from: frames().required(),
        to: frames().required(),
        insert: spans.defined(),
        after: join.nullable().defined(),
      })
      .noUnknown()
  const type = yup.string().required()
  if (step?.type === 'move')
    return yup
      .object({
        type,
        from: frames().required(),
        to: frames().required(),
        at: frames().required(),
        closing: join.nullable().defined(),
        first: join.nullable().defined(),
        after: join.nullable().defined(),
      })
      .noUnknown()
  if (step?.type === 'paint')
    return yup
      .object({
        type,
        parts: yup.array(paintPart).max(5000).defined(),
        joins: yup
          .array(yup.object({ at: frames().required(), join: join.required() }).noUnknown().required())
          .max(5000)
          .optional(),
      })
      .noUnknown()
  if (step?.type === 'join')
    return yup.object({ type: yup.string().required(), at: frames().required(), join: join.required() }).noUnknown()
  if (step?.type === 'heard')
    return yup.object({ type: yup.string().required(), at: frames().nullable().defined(), heard: yup.boolean().required() }).noUnknown()
  if (step?.type === 'keep') return yup.object({ type, step: keptStep }).noUnknown()
  const value = own<yup.ISchema<unknown>>(settable, step?.key) ?? yup.mixed().test('known', 'that cannot be set', () => false)
  return yup
    .object({ type: yup.string().oneOf(['set']).required(), key: yup.string().oneOf(Object.keys(settable)).required(), value })
    .noUnknown()
})

const tapeRecords = {
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
      language: yup
        .string()
        .matches(/^[a-z]{2,3}$/)
        .optional(),
    })
    .noUnknown(),
  strike: yup
    .object({ id: id().required(), kind: yup.string().required(), from: frames().required(), to: frames().required() })
    .noUnknown(),
  off: yup.object({ id: id().required(), kind: yup.string().required(), from: frames().required(), to: frames().required() }).noUnknown(),
  level: yup.object({ id: id().required(), kind: yup.string().required(), points: line().max(20_000).required() }).noUnknown(),
  mark: yup
    .object({
      id: id().required(),
      kind: yup.string().required(),
      at: frames().required(),
      text: name().defined(),
      colour: yup.string().oneOf(MARK_COLOURS).optional(),
      star: yup.boolean().optional(),
    })
    .noUnknown(),
}

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

const storyRecords = {
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

const voice = () =>
  yup
    .string()
    .max(40)
    .matches(/^[\w-]+$/)
const words = yup
  .array(
    yup
      .object({
        text: yup.string().min(1).max(80).required(),
        from: frames().required(),
        to: frames()
          .required()
          .when('from', ([from], schema) => schema.moreThan(from, 'a word ends after it begins')),
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

const timing = yup
  .object({
    from: frames().required(),
    to: frames()
      .required()
      .when('from', ([from], schema) => schema.moreThan(from, 'a word ends after it begins')),
    rough: truth(),
    checked: truth(),
  })
  .noUnknown()

const transcriptStep = yup.lazy((step: { type?: string } | undefined) => {
  const type = yup.string().oneOf(['words', 'times', 'voice']).required()
  if (step?.type === 'times')
    return yup
      .object({
        type,
        moves: yup
          .array(
            yup
              .object({ at: yup.number().integer().min(0).required(), was: timing.required(), now: timing.required() })
              .noUnknown()
              .required(),
          )
          .max(50_000)
          .required(),
      })
      .noUnknown()
  if (step?.type === 'words')
    return yup.object({ type, at: yup.number().integer().min(0).required(), out: words.defined(), in: words.defined() }).noUnknown()
  return yup.object({ type, voice: voice().required(), name: name().optional(), was: name().optional() }).noUnknown()
})

const stepSchemas: Record<Kind, yup.ISchema<unknown>> = {
  actuality: actualityStep,
  tape: recordStep(tapeRecords),
  story: recordStep(storyRecords),
  transcript: transcriptStep,
}

const inStrictForm = { strict: true, abortEarly: true } as const

/** The steps, checked; throws yup's ValidationError. */
export async function checkedSteps(kind: Kind, steps: unknown): Promise<AnyStep[]> {
  const list = await yup.array().required().max(5000).validate(steps, inStrictForm)
  for (const step of list) await stepSchemas[kind].validate(step, inStrictForm)
  return list as AnyStep[]
}

/** What is wrong with what is kept beside a piece, as far as steps have touched it. */
function keptFaults({ kept = {} }: Actuality, steps: readonly ActualityStep[]): string[] {
  const touched = steps.flatMap((step) => (step.type !== 'keep' ? [] : step.step.type === 'put' ? step.step.record.id : step.step.id))
  return [...new Set(touched)].flatMap((key) => {
    const one = own(kept, key)
    return one ? (recordFault('actuality', key, one) ?? []) : []
  })
}

const recordSchemas: Partial<Record<Kind, Record<string, yup.ObjectSchema<object>>>> = {
  actuality: keptRecords,
  tape: tapeRecords,
  story: storyRecords,
}

/** What is wrong with a record as it stands, by the schema of its kind; null where nothing is. */
function recordFault(kind: Kind, id: string, record: unknown): string | null {
  const schema = own(recordSchemas[kind] ?? {}, (record as { kind?: string } | null)?.kind)
  if (!schema) return `${id}: no such kind of record`
  try {
    schema.required().validateSync(record, inStrictForm)
    return (record as { id: string }).id === id ? null : `${id}: filed under another id`
  } catch (error) {
    return `${id}: ${(error as Error).message}`
  }
}

/**
 * What is wrong with the records of a document that steps have touched, or with all of them; empty where nothing is.
 * Of a piece, steps touch what is kept beside it; without steps it is checked as a whole.
 */
export function faultsIn(kind: Kind, body: Body, steps?: readonly AnyStep[]): string[] {
  if (kind === 'actuality' && steps) return keptFaults(body as Actuality, steps as ActualityStep[])
  if (kind === 'actuality') {
    try {
      actualitySchema.validateSync(body, inStrictForm)
      return []
    } catch (error) {
      return [(error as Error).message]
    }
  }
  const records = (body as StoryDocument | TapeDocument).records
  if (!records) return []
  const touched =
    steps &&
    new Set(steps.map((step) => ('record' in step ? (step as { record: { id: string } }).record.id : ((step as { id?: string }).id ?? ''))))
  const head = kind === 'tape' ? 'tape' : 'story'
  const missing = Object.hasOwn(records, head) ? [] : [`${head}: is missing`]
  return [
    ...missing,
    ...Object.keys(records).flatMap((id) =>
      touched && !touched.has(id) ? [] : (recordFault(kind, id, records[id as keyof typeof records]) ?? []),
    ),
  ]
}

/** The body of a new document, checked. Tapes are not made this way: they begin with sound. */
export async function checkedBody(body: unknown): Promise<Actuality | StoryDocument> {
  const kind = (body as { kind?: unknown } | null)?.kind
  if (kind === 'actuality') return (await actualitySchema.validate(body, inStrictForm)) as unknown as Actuality
  const story = await yup
    .object({
      kind: yup.string().oneOf(['story']).required(),
      records: yup.object({ story: storyRecords.story.required() }).noUnknown().required(),
    })
    .noUnknown()
    .required()
    .validate(body, inStrictForm)
  return story as unknown as StoryDocument
}

/** One act on its way to the server. */
export const entrySchema = yup
  .object({
    id: id().required(),
    author: id().required(),
    label: name().defined(),
    steps: yup.array().required(),
    undoes: id().optional(),
    quiet: yup.boolean().optional(),
    together: yup.string().max(60).optional(),
  })
  .noUnknown()

/** Acts in their order, each made on top of the one before it, the first one against revision `base`. */
export const submissionSchema = yup
  .object({ base: revision().required(), entries: yup.array(entrySchema.required()).min(1).max(SENT_AT_ONCE).required() })
  .noUnknown()

/** An act as it stands in the log. */
export interface LoggedEntry {
  revision: number
  id: string
  author: string
  label: string
  steps: AnyStep[]
  inverse: AnyStep[]
  undoes?: string
  quiet?: boolean
  together?: string
  at?: string
}

export interface StoredDocument {
  id: string
  kind: Kind
  revision: number
  aside: boolean
  body: Body
}

/**
 * What becomes of a submission: the revisions of the acts that were taken, which are the first of those sent, and why the
 * next one was refused; null where it was not. What comes after a refused one is to be sent again, made without it.
 */
export interface Verdict {
  taken: number[]
  refused: string | null
  /** What was in the log since the revision that the acts were made against. */
  since: LoggedEntry[]
}
