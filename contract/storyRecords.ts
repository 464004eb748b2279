import * as yup from 'yup'
import { AROUND, type Quote } from '../core/page/anchors'
import type { Dip } from '../core/page/dips'
import {
  type Back,
  BLOCK_KINDS,
  variantId,
  type Block,
  type BlockKind,
  type Hanger,
  type HangerSection,
  type Lane,
  type Output,
  type PageMark,
  type PanStop,
  type StoryHead,
  type Variant,
} from '../core/page/story'
import { realDay } from '../core/sound/waveFile'
import { MARK_COLOURS } from '../core/tape/tape'
import { frames, id, MOST } from './ids'
import { copy, dB, name, stretch, truth, type FieldsOf } from './shapes'

/** The records that a story's document is made of, each kind with its schema. */

const order = () =>
  yup
    .string()
    .max(200)
    .matches(/^[0-9A-Za-z]+$/)
/** A time that may lie before what it is counted from. */
const offset = () => yup.number().integer().min(-MOST).max(MOST)
const kind = () => yup.string().required()
/** Between left and right. */
const pan = () => yup.number().min(-1).max(1)
const endShape = () =>
  yup
    .string()
    .oneOf(['power', 'gain', 'ear'] as const)
    .optional()

const block = yup
  .object({
    id: id().required(),
    kind: kind().oneOf(Object.keys(BLOCK_KINDS)),
    order: order().required(),
    aside: yup.boolean().required(),
    text: copy().defined(),
    reader: name().defined(),
    pace: yup.number().min(60).max(400).optional(),
    piece: id().nullable().defined(),
    gap: offset().optional(),
    gain: dB().optional(),
    pan: pan().optional(),
  } satisfies FieldsOf<Block>)
  .noUnknown()

const said = yup.object({ tape: id().required(), at: frames().required() }).noUnknown().default(undefined).optional()
const around = () => yup.array(yup.string().max(200).defined()).max(AROUND).defined()
const quote = yup
  .object({
    word: yup.string().max(200).required(),
    before: around(),
    after: around(),
    index: yup.number().integer().min(0).max(20_000).required(),
    said,
  } satisfies FieldsOf<Quote>)
  .noUnknown()
  .required()
const edge = yup.string().oneOf(['start', 'end']).required()
const held = yup
  .object({
    block: id().required(),
    at: yup.lazy((at: unknown): yup.Schema => (typeof at === 'string' ? edge : quote)),
    offset: offset().required(),
  })
  .noUnknown()
const aTime = yup.object({ at: offset().required() }).noUnknown()
const anchor = yup.lazy((value: unknown): yup.Schema =>
  value === null ? yup.mixed().nullable() : Object.hasOwn((value ?? {}) as object, 'block') ? held.required() : aTime.required(),
)
const aPiece = yup.object({ piece: id().required() }).noUnknown().required()
const ofTape = yup
  .object({ tape: id().required(), ...stretch('a stretch of tape') })
  .noUnknown()
  .required()

const hanger = yup
  .object({
    id: id().required(),
    kind: kind(),
    lane: id().required(),
    aside: yup.boolean().required(),
    plays: yup.lazy((plays: unknown): yup.Schema => (Object.hasOwn((plays ?? {}) as object, 'piece') ? aPiece : ofTape)),
    start: anchor,
    end: anchor,
    gain: dB().required(),
    level: yup
      .array(yup.object({ at: frames().required(), dB: dB().required() }).noUnknown().required())
      .max(1000)
      .optional(),
    dip: yup
      .object({
        dB: yup.number().min(-60).max(0).required(),
        down: frames().required(),
        back: frames().required(),
        hold: frames().required(),
        deep: yup.number().min(-80).max(0).optional(),
      } satisfies FieldsOf<Dip>)
      .noUnknown()
      .default(undefined)
      .optional(),
    sections: yup
      .array(
        yup
          .object({
            from: anchor,
            is: yup
              .string()
              .oneOf(['under', 'deep', 'up'] as const)
              .required(),
          } satisfies FieldsOf<HangerSection>)
          .noUnknown()
          .required(),
      )
      .max(200)
      .optional(),
    pan: yup
      .array(
        yup
          .object({ at: frames().required(), to: pan().required() } satisfies FieldsOf<PanStop>)
          .noUnknown()
          .required(),
      )
      .max(1000)
      .optional(),
    fadeIn: frames().optional(),
    fadeOut: frames().optional(),
    shapeIn: endShape(),
    shapeOut: endShape(),
    by: yup
      .string()
      .oneOf(['end'] as const)
      .optional(),
    goesOn: yup.boolean().optional(),
    back: yup
      .object({ ...stretch('what comes again'), same: truth() } satisfies FieldsOf<Back>)
      .noUnknown()
      .default(undefined)
      .optional(),
  } satisfies FieldsOf<Hanger>)
  .noUnknown()
  .test('start', 'what lies beside a page begins somewhere', (one) => one.start !== null)
  .test('sections', 'a section begins somewhere', (one) => (one.sections ?? []).every(({ from }) => from !== null))

const lane = yup
  .object({
    id: id().required(),
    kind: kind(),
    name: name().defined(),
    colour: yup.string().oneOf(MARK_COLOURS).required(),
    order: order().required(),
    locked: yup.boolean().required(),
    muted: yup.boolean().required(),
    gain: dB().required(),
  } satisfies FieldsOf<Lane>)
  .noUnknown()

/** A day of the calendar and a time of day, with the zone in which it was set; older ones have none. */
const isAirTime = (value: string): boolean =>
  /^\d{4}-\d\d-\d\dT([01]\d|2[0-3]):[0-5]\d([+-](0\d|1[0-4]):[0-5]\d)?$/.test(value) && realDay(value.slice(0, 10)) !== ''

const output = yup
  .object({
    id: id().required(),
    kind: kind(),
    name: name().defined(),
    order: order().required(),
    client: name().defined(),
    airs: yup
      .string()
      .test('airs', 'an air time reads 2026-11-25T17:52+00:00', (value) => !value || isAirTime(value))
      .defined(),
    slot: frames().required(),
    loudness: yup.number().min(-70).max(0).nullable().defined(),
    unrecorded: yup
      .string()
      .oneOf(['out', 'tone'] as const)
      .required(),
    gain: dB().optional(),
  } satisfies FieldsOf<Output>)
  .noUnknown()

const mark = yup
  .object({
    id: id().required(),
    kind: kind(),
    start: anchor,
    text: name().defined(),
    colour: yup.string().oneOf(MARK_COLOURS).optional(),
    star: yup.boolean().optional(),
  } satisfies FieldsOf<PageMark>)
  .noUnknown()
  .test('start', 'a mark stands somewhere', (one) => one.start !== null)

const variant = yup
  .object({
    id: yup.string().required(),
    kind: kind(),
    output: id().required(),
    block: id().required(),
    out: truth(),
    order: order().optional(),
    piece: id().optional(),
    text: copy().optional(),
    gap: offset().optional(),
    pace: yup.number().min(60).max(400).optional(),
  } satisfies FieldsOf<Variant>)
  .noUnknown()
  .test('id', 'it is named by its output and its block', (one) => one.id === variantId(one.output, one.block))

export const storyRecords = {
  story: yup
    .object({
      id: yup.string().oneOf(['story']).required(),
      kind: kind(),
      slug: name().defined(),
      terms: yup
        .array(
          yup
            .object({ text: yup.string().trim().min(1).max(80).required(), spoken: name().defined() })
            .noUnknown()
            .required(),
        )
        .max(500)
        .optional(),
    } satisfies FieldsOf<StoryHead>)
    .noUnknown(),
  ...(Object.fromEntries(Object.keys(BLOCK_KINDS).map((one) => [one, block])) as Record<BlockKind, typeof block>),
  hanger,
  lane,
  output,
  variant,
  mark,
}

/** The properties that can be written in, letter by letter. */
export const STORY_TEXTS = ['text']
