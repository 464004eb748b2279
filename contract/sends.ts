import * as yup from 'yup'
import type { LaneOf } from '../core/page/onlyLane'
import type { Unrecorded } from '../core/page/story'
import type { Asked } from '../core/send/lastLook'
import { allowsRate, FILE_FORMATS, isLossless, KBPS, PICTURE, ratesOf, type FileFormat, type Kbps } from './fileFormats'
import type { DeliveryInfo } from './deliveries'
import { frames, id } from './ids'
import { pictureSchema, type PictureOrder } from './pictures'
import type { FieldsOf } from './shapes'

/** What is to be sent: a page, a piece, or a stretch of a tape (all of it where no stretch is given). */
const what = yup
  .object({
    kind: yup
      .string()
      .oneOf(['story', 'actuality', 'tape'] as const)
      .required(),
    id: id().required(),
    from: frames().optional(),
    to: frames().optional(),
    output: id().optional(),
    lane: yup.lazy((lane: unknown): yup.Schema => (lane === 'voice' || lane === 'tape' ? yup.string().optional() : id().optional())),
  } satisfies FieldsOf<SendTarget>)
  .noUnknown()

/** What a file can be: see `fitsFormat`. */
export const formFields = {
  format: yup.string().oneOf(FILE_FORMATS).required(),
  rate: yup
    .number()
    .oneOf([48_000, 44_100] as const)
    .required(),
  bits: yup
    .number()
    .oneOf([16, 24] as const)
    .required(),
  channels: yup
    .number()
    .oneOf([1, 2] as const)
    .required(),
  /** Kilobits a second, where it is coded: constant, in AAC on average. */
  kbps: yup.number().oneOf(KBPS).required(),
}

export const sendSchema = yup
  .object({
    what: what.required(),
    ...formFields,
    format: yup
      .string()
      .oneOf([...FILE_FORMATS, PICTURE] as const)
      .required(),
    picture: pictureSchema.optional().default(undefined),
    unrecorded: yup
      .string()
      .oneOf(['out', 'tone'] as const)
      .optional(),
    /** Who sends it, by the name that their browser was given. */
    by: yup.string().max(100).optional(),
    /** Made of `{slug}`, `{date}`, `{client}`, `{length}` and plain text. */
    pattern: yup.string().max(200).required(),
    to: yup.array(id().required()).max(20).optional(),
    script: yup.boolean().optional(),
  } satisfies FieldsOf<SendOrder>)
  .noUnknown()
  .test('rate', 'that format has no such rate', (value) => fitsFormat(value))
  .test('picture', 'a picture is a file of its own kind', ({ format, picture }) => (format === PICTURE) === Boolean(picture))

/** Whether a format can be of that rate and bit rate. */
export function fitsFormat({
  format,
  rate,
  kbps,
  channels,
}: {
  format: FileFormat
  rate: number
  kbps: number
  channels: number
}): boolean {
  return allowsRate(format, rate) && (isLossless(format) || ratesOf(format, channels as 1 | 2).includes(kbps as Kbps))
}

export interface SendTarget {
  kind: 'story' | 'actuality' | 'tape'
  id: string
  from?: number
  to?: number
  /** Of a story: which of its outputs; the first where none is named. */
  output?: string
  /** Of a story: one lane alone, as long as the whole. */
  lane?: LaneOf
}

export interface SendOrder {
  what: SendTarget
  format: FileFormat
  rate: 48_000 | 44_100
  bits: 16 | 24
  channels: 1 | 2
  kbps: Kbps
  /** What an MP4 file shows. */
  picture?: PictureOrder
  /** Of a story: what becomes of copy without a voice track, where that is otherwise than its output says. */
  unrecorded?: Unrecorded
  by?: string
  pattern: string
  /** The destinations that it goes to. */
  to?: string[]
  /** Whether the script goes with it, or the cue sheet of a single actuality. */
  script?: boolean
}

/** What an order would come to. */
export interface SendPreview {
  frames: number
  channels: number
  /** What a picture of it says. */
  title: string
  from: string
  fileName: string
  /** What one should know before one sends it. */
  look: Asked[]
  /** What it is to be as loud as, in LUFS; null where it is not a whole story. */
  target: number | null
}

/** How loud a file is: integrated loudness in LUFS and true peak in dBTP, -120 where it is silent. */
export interface FileFigures {
  loudness: number
  truePeak: number
}

/** Of what would be sent, and its wave: the highest sample, 0 to 1, of each of equal parts. */
export interface FigurePreview extends FileFigures {
  wave: number[]
}

/** What goes beside a file. */
export interface ScriptFile {
  fileName: string
  bytes: number
  sha256: string
}

export interface Receipt {
  id: string
  order: SendOrder
  state: 'waiting' | 'working' | 'done' | 'failed' | 'cancelled'
  /** 0 to 1. */
  progress: number
  at: string
  fileName: string
  /** Length of the file in frames of its own rate. */
  frames: number
  bytes: number
  sha256: string
  /** Of the finished file, in LUFS and dBTP; null where it was not measured. */
  loudness: number | null
  truePeak: number | null
  error: string
  /** The last look as it was when it was sent. */
  look: Asked[]
  script: ScriptFile | null
  /** The way of the file, and of its script, to each destination. */
  deliveries: DeliveryInfo[]
}
