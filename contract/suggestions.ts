import * as yup from 'yup'
import { frames, id } from './ids'
import type { Decision, Suggestion } from '../core/tape/suggestion'
import { chosenBy, line, name, repairKind, stretch, truth, type FieldsOf } from './shapes'

/** What finders suggest, on a tape or beside a piece. */

const day = () => yup.string().max(40)
const what = yup.string().required()
const goes = yup.object(stretch('what goes')).noUnknown().required()
const proposes = chosenBy(
  'do',
  {
    takeOut: yup.object({ do: what, goes, room: frames().required() }).noUnknown(),
    hold: yup.object({ do: what, goes }).noUnknown(),
    level: yup.object({ do: what, points: line().min(1).max(1000).required() }).noUnknown(),
    mute: yup.object({ do: what }).noUnknown(),
    repair: yup.object({ do: what, how: repairKind() }).noUnknown(),
  },
  'nothing that can be proposed',
)

const setting = yup
  .mixed()
  .test('setting', 'a setting is a figure, a word or a choice', (value) => /^(number|string|boolean)$/.test(typeof value))
const settings = yup.lazy((value: unknown) =>
  yup
    .object(Object.fromEntries(Object.keys((value as object | undefined) ?? {}).map((key) => [key, setting])))
    .test('few', 'a finder has 40 settings at most', (all) => Object.keys(all ?? {}).length <= 40)
    .required(),
)

const decision = yup
  .object({
    is: yup
      .string()
      .oneOf(['applied', 'changed', 'dismissed'] as const)
      .required(),
    by: id().required(),
    at: day().required(),
    act: id().optional(),
  } satisfies FieldsOf<Decision>)
  .noUnknown()
  .nullable()
  .defined()
  .default(undefined)

export const suggestion = yup
  .object({
    id: id().required(),
    kind: yup.string().required(),
    at: day().required(),
    tape: id().required(),
    ...stretch('a suggestion'),
    side: yup.number().integer().min(0).max(7).nullable().defined(),
    finder: name().required(),
    settings,
    sure: yup.number().min(0).max(1).required(),
    proposes,
    story: truth(),
    decision,
  } satisfies FieldsOf<Suggestion>)
  .noUnknown()
