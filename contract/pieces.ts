import * as yup from 'yup'
import { frames, id } from './ids'
import { suggestion } from './suggestions'
import type { Heard, JoinStep, Keep, LinePart, Move, PaintStep, Replace } from '../core/edits/actualitySteps'
import type { Actuality, EndCut, EndFade, Offcut, Version } from '../core/edits/piece'
import type { Join, Patch, Span, Taken } from '../core/edits/editList'
import {
  choiceBy,
  chosenBy,
  dB,
  gain,
  hertz,
  line,
  name,
  recordOf,
  recordStep,
  sides,
  slipped,
  stretch,
  truth,
  type FieldsOf,
} from './shapes'

/** Pieces and the steps that change them, as they cross the wire. */

const shape = () => yup.string().oneOf(['power', 'gain'] as const)

const joinFields = {
  fade: frames().required().max(48_000),
  shape: shape().required(),
  origin: yup
    .string()
    .oneOf(['hand', 'split', 'paint'] as const)
    .required(),
  heard: yup.boolean().required(),
  finder: name().optional(),
  asked: yup
    .object({ left: frames().required(), right: frames().required(), why: yup.string().defined().max(200) })
    .noUnknown()
    .default(undefined)
    .optional(),
}

/** Joins may remember spans that have joins of their own; deeper than this nobody cuts by hand. */
const DEEPEST = 40

const nothing = yup.mixed().optional()
const tooDeep = yup.mixed().test('deep', 'that was cut too often at one place', () => false)

/** What is made of a depth is made once. */
function byDepth<T>(make: (depth: number) => T): (depth: number) => T {
  const made = new Map<number, T>()
  return (depth) => {
    let one = made.get(depth)
    if (one === undefined) made.set(depth, (one = make(depth)))
    return one
  }
}

const takenWithin = byDepth((depth) =>
  yup
    .object({
      spans: yup.array(spanWithin(depth).required()).max(5000).defined(),
      after: joinWithin(depth).nullable().defined().default(undefined),
    } satisfies FieldsOf<Taken>)
    .noUnknown()
    .required(),
)

/** A join whose memory is no deeper than `depth`. */
const joinWithin: (depth: number) => yup.ObjectSchema<object> = byDepth((depth) =>
  yup
    .object({
      ...joinFields,
      took: yup.lazy((value: unknown): yup.Schema => (value === undefined ? nothing : depth === 0 ? tooDeep : takenWithin(depth - 1))),
    } satisfies FieldsOf<Join>)
    .noUnknown(),
)
const requiredJoin = byDepth((depth) => joinWithin(depth).required())
const join = joinWithin(DEEPEST)

const underPatch = byDepth(() =>
  yup
    .array(spanWithin(DEEPEST / 2).required())
    .min(1)
    .max(2000)
    .required(),
)

const spanFields = {
  tape: id().required(),
  ...stretch('a span'),
  sound: yup
    .string()
    .oneOf(['tape', 'tone', 'room'] as const)
    .required(),
  level: line().max(1000).optional(),
  gain: gain(),
  patch: yup
    .object({
      tape: id().required(),
      ...stretch('what is covered'),
      laid: yup.object(stretch('a patch')).noUnknown().required(),
      own: truth(),
      held: truth(),
      room: truth(),
      under: yup.lazy((value: unknown): yup.Schema => (value === undefined ? nothing : underPatch(0))),
    } satisfies FieldsOf<Patch>)
    .noUnknown()
    .default(undefined)
    .optional(),
  mute: truth(),
  mutes: yup.array(yup.boolean().nullable().defined()).max(8).optional(),
  slip: yup.array(slipped().required()).max(8).optional(),
  levels: yup.array(dB().required()).max(8).optional(),
  lowCut: hertz().optional(),
}

const spanWithin: (depth: number) => yup.ObjectSchema<object> = byDepth((depth) =>
  yup
    .object({
      ...spanFields,
      join: yup.lazy((value: unknown): yup.Schema => (value === undefined ? nothing : requiredJoin(depth))),
    } satisfies FieldsOf<Span>)
    .noUnknown(),
)
const spans = yup.array(spanWithin(DEEPEST).required()).max(20_000)

const requiredSides = sides().required()

/** The sides of several tapes, by the tape's id. */
const sidesByTape = yup.lazy((value: unknown) =>
  yup
    .object(Object.fromEntries(Object.keys((value as object | undefined) ?? {}).map((tape) => [tape, requiredSides])))
    .test('ids', 'tapes are named by their ids', (named) => Object.keys(named ?? {}).every((tape) => id().isValidSync(tape)))
    .optional()
    .default(undefined),
)

const endFade = yup
  .object({
    length: frames()
      .required()
      .max(48_000 * 60),
    shape: shape().required(),
  } satisfies FieldsOf<EndFade>)
  .noUnknown()
  .default(undefined)
  .optional()

const endCut = yup
  .object({ spans: spans.required().min(1), handle: frames().required() } satisfies FieldsOf<EndCut>)
  .noUnknown()
  .default(undefined)
  .optional()

/** What a piece and a version of it have both. */
const shaped = {
  head: frames().required(),
  tail: frames().required(),
  sides: sidesByTape,
  gain: gain(),
  fadeIn: endFade,
  fadeOut: endFade,
  cutHead: endCut,
  cutTail: endCut,
}

const keptFields = {
  id: id().required(),
  kind: yup.string().required(),
  at: yup.string().required().max(40),
  spans: spans.required().min(1),
}

/** What is kept beside a piece. */
export const keptRecords = {
  offcut: yup.object(keptFields satisfies FieldsOf<Offcut>).noUnknown(),
  suggestion,
  version: yup.object({ ...keptFields, ...shaped, name: name().defined() } satisfies FieldsOf<Version>).noUnknown(),
}

const anyKept = recordOf(keptRecords)
const kept = yup.lazy((value: unknown) =>
  yup
    .object(Object.fromEntries(Object.keys((value as object | undefined) ?? {}).map((key) => [key, anyKept])))
    .test('ids', 'what is kept is filed under another id', (all) =>
      Object.entries((all ?? {}) as Record<string, { id?: string }>).every(([key, one]) => one?.id === key),
    )
    .optional()
    .default(undefined),
)

const settable = {
  slug: name().defined(),
  speaker: name().defined(),
  role: name().defined(),
  story: id().nullable().defined(),
  line: id().optional(),
  ...shaped,
}

export const actualitySchema = yup
  .object({
    ...settable,
    kind: yup
      .string()
      .oneOf(['actuality'] as const)
      .required(),
    spans: spans.required().min(1),
    kept,
  } satisfies FieldsOf<Actuality>)
  .noUnknown()

const place = stretch('a stretch')
const type = yup.string().required()
const sideOf = yup.number().integer().min(0).max(7).required()
const offset = yup.number().integer().required()

/** Something painted over a stretch: each kind has values of its own. */
const paintPart = chosenBy(
  'what',
  {
    mute: yup
      .object({ ...place, what: type, value: yup.boolean().nullable().defined().notOneOf([false]) })
      .noUnknown()
      .required(),
    side: yup
      .object({ ...place, what: type, side: sideOf, value: yup.boolean().nullable().defined() })
      .noUnknown()
      .required(),
    lowCut: yup
      .object({ ...place, what: type, value: hertz().nullable().defined() })
      .noUnknown()
      .required(),
    level: yup
      .object({ ...place, what: type, side: sideOf, value: dB().required() })
      .noUnknown()
      .required(),
    slip: yup
      .object({ ...place, what: type, side: sideOf, value: slipped().required() })
      .noUnknown()
      .required(),
    line: yup
      .object({
        ...place,
        what: type,
        over: yup.object({ from: offset, to: offset }).noUnknown().nullable().defined().default(undefined),
        points: yup
          .array(yup.object({ at: offset, dB: dB().required() }).noUnknown().required())
          .max(1000)
          .defined(),
      } satisfies FieldsOf<LinePart>)
      .noUnknown()
      .required(),
  },
  'nothing that can be painted',
)

const aJoin = join.nullable().defined()
const set = Object.entries(settable).map(([key, value]) => [key, yup.object({ type, key: type, value }).noUnknown()])

export const actualityStep = chosenBy(
  'type',
  {
    replace: yup
      .object({
        type,
        from: frames().required(),
        to: frames().required(),
        insert: spans.defined(),
        after: aJoin,
      } satisfies FieldsOf<Replace>)
      .noUnknown(),
    move: yup
      .object({
        type,
        from: frames().required(),
        to: frames().required(),
        at: frames().required(),
        closing: aJoin,
        first: aJoin,
        after: aJoin,
      } satisfies FieldsOf<Move>)
      .noUnknown(),
    paint: yup
      .object({
        type,
        parts: yup.array(paintPart).max(5000).defined(),
        joins: yup
          .array(yup.object({ at: frames().required(), join: join.required() }).noUnknown().required())
          .max(5000)
          .optional(),
      } satisfies FieldsOf<PaintStep>)
      .noUnknown(),
    join: yup.object({ type, at: frames().required(), join: join.required() } satisfies FieldsOf<JoinStep>).noUnknown(),
    heard: yup.object({ type, at: frames().nullable().defined(), heard: yup.boolean().required() } satisfies FieldsOf<Heard>).noUnknown(),
    keep: yup.object({ type, step: recordStep(keptRecords) } satisfies FieldsOf<Keep>).noUnknown(),
    set: choiceBy('key', Object.fromEntries(set) as Record<string, yup.Schema>, 'that cannot be set'),
  },
  'no such step',
)
